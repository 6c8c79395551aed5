import { smsLength } from '@zaguan/core/messages';
import { describe, expect, it } from 'vitest';
import { SegmentedMessage } from 'sms-segments-calculator';
import { linkAddress, linkLength } from '../linkTokens/index.ts';
import { ANSWERS, CODE, CODE_WORDS, LINK, writeMessage } from './words.ts';
import { CODE_MAIL, subjectOf, writeMail } from './words.mail.ts';

const PUBLIC_URL = 'https://visits.example.com';
const VISIT = {
  clinic: 'Brindlewood Allergy & Asthma',
  clinicPhone: '(312) 555-0100',
  // A Wednesday in September: the longest words of both languages.
  startsAt: new Date('2026-09-30T17:30:00Z'),
  timeZone: 'America/Chicago',
  linkLength: linkLength(PUBLIC_URL),
};
const ADDRESS = linkAddress(PUBLIC_URL, 'x_-X09'.repeat(3).slice(0, 16));
const KINDS = [
  ...(['confirmation', 'reminder', 'moved', 'must-move', 'cancellation', 'restored'] as const),
  ...(['requested', 'declined', 'delay', 'on-time'] as const),
];
const LANGUAGES = ['en', 'es'] as const;
const all = KINDS.flatMap((kind) => LANGUAGES.map((language) => ({ kind, language })));

describe('what messages say', () => {
  /** 3GPP TS 23.038: one letter outside the alphabet would more than double what a text costs. */
  it.each(all)('$kind in $language keeps to the GSM alphabet and to two texts', ({ kind, language }) => {
    const length = smsLength(writeMessage(kind, language, VISIT).replace(LINK, ADDRESS));
    expect(length.alphabet).toBe('GSM-7');
    expect(length.parts).toBeLessThanOrEqual(2);
  });

  /** Peer: sms-segments-calculator. Every third day of a year: all months and weekdays, for some are longer. */
  it.each(
    LANGUAGES.flatMap((language) =>
      (['confirmation', 'reminder'] as const).flatMap((kind) =>
        ['Oak', VISIT.clinic, 'Desert Lung & Sinus Center, West Phoenix'].map((clinic) => ({ kind, language, clinic })),
      ),
    ),
  )('$kind in $language of “$clinic” is one text of 160 with its link, all year', ({ kind, language, clinic }) => {
    expect(VISIT.linkLength).toBe(ADDRESS.length);
    for (let day = 0; day < 366; day += 3) {
      const startsAt = new Date(Date.UTC(2026, 0, 1 + day, 17, 30));
      const text = writeMessage(kind, language, { ...VISIT, clinic, startsAt }).replace(LINK, ADDRESS);
      const { segmentsCount, encodingName } = new SegmentedMessage(text, 'auto', false);
      expect([text, segmentsCount, encodingName]).toEqual([text, 1, 'GSM-7']);
      expect(text).toContain(ADDRESS);
      expect(text).toMatch(language === 'es' ? /\bS\b.*ALTO/ : /\bY\b.*STOP/);
    }
  });

  it.each(all)('$kind in $language is no longer than two texts by sms-segments-calculator', ({ kind, language }) => {
    const clinic = 'Desert Lung & Sinus Center, West Phoenix';
    const place = kind === 'moved' ? 'Brindlewood at Mesa Court, 2200 West Mesa Court' : null;
    const text = writeMessage(kind, language, { ...VISIT, clinic }, { place }).replace(LINK, ADDRESS);
    const { segmentsCount, encodingName } = new SegmentedMessage(text, 'auto', false);
    expect([segmentsCount <= 2, encodingName]).toEqual([true, 'GSM-7']);
  });

  it('says more where there is room', () => {
    const short = writeMessage('confirmation', 'en', { ...VISIT, clinic: 'Oak' });
    expect(short).toContain('you are booked');
    expect(writeMessage('confirmation', 'en', { ...VISIT, clinic: 'x'.repeat(80) })).toMatch(
      /Details: .* Y to confirm/,
    );
  });

  it.each(all)(
    '$kind in $language names clinic and time, and a link wherever there is a visit to see',
    ({ kind, language }) => {
      for (const text of [writeMessage(kind, language, VISIT), writeMail(kind, language, VISIT)]) {
        expect(text).toContain(VISIT.clinic);
        expect(text).toContain('12:30');
        expect(text.includes(LINK)).toBe(kind !== 'cancellation' && kind !== 'declined');
      }
      expect(subjectOf(kind, language, VISIT.clinic)).toContain(VISIT.clinic);
    },
  );

  it.each(LANGUAGES)('a move to another place names it in %s, in two texts still', (language) => {
    const place = 'Brindlewood at Canal Row, 14 Canal Row';
    const text = writeMessage('moved', language, VISIT, { place });
    expect(text).toContain(place);
    expect(smsLength(text.replace(LINK, ADDRESS)).parts).toBeLessThanOrEqual(2);
    expect(writeMail('moved', language, VISIT, { place })).toContain(`\n${place}`);
    expect(writeMessage('moved', language, VISIT)).not.toMatch(/place|lugar/);
  });

  it('of a text that asks for an answer say how to stop, and of a cancelled one how to get another time', () => {
    for (const kind of ['confirmation', 'reminder'] as const) {
      expect(writeMessage(kind, 'en', VISIT)).toMatch(/\bY .*STOP/s);
      expect(writeMessage(kind, 'es', VISIT)).toMatch(/\bS .*ALTO/s);
    }
    expect(writeMail('cancellation', 'en', VISIT)).toContain(VISIT.clinicPhone);
  });

  it('gives times on the site’s clock, with its zone where there is room', () => {
    expect(writeMail('confirmation', 'en', VISIT)).toContain('Wednesday, September 30, 12:30 PM CT');
    expect(writeMail('confirmation', 'en', { ...VISIT, timeZone: 'America/Denver' })).toContain('11:30 AM MT');
    expect(writeMessage('reminder', 'es', VISIT)).toContain('12:30 pm');
  });

  it.each(LANGUAGES)('answers in %s fit one text each, and the code stands last in its own', (language) => {
    const facts = { clinic: VISIT.clinic, phone: VISIT.clinicPhone };
    for (const answer of Object.values(ANSWERS[language]))
      expect(smsLength(answer(facts))).toMatchObject({ alphabet: 'GSM-7', parts: 1 });
    expect(CODE_WORDS[language](VISIT.clinic).endsWith(CODE)).toBe(true);
    expect(CODE_MAIL[language](VISIT.clinic)).toContain(`\n${CODE}\n`);
  });
});
