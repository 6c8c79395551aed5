import { smsLength } from '@zaguan/core/messages';
import { describe, expect, it } from 'vitest';
import { ANSWERS, CODE, CODE_WORDS, LINK, writeMessage } from './words.ts';
import { CODE_MAIL, subjectOf, writeMail } from './words.mail.ts';

const VISIT = {
  clinic: 'Brindlewood Allergy & Asthma',
  clinicPhone: '(312) 555-0100',
  // A Wednesday in September: the longest words of both languages.
  startsAt: new Date('2026-09-30T17:30:00Z'),
  timeZone: 'America/Chicago',
};
const ADDRESS = `https://visits.example.com/book/v/${'x'.repeat(43)}`;
const KINDS = [
  ...(['confirmation', 'reminder', 'moved', 'must-move', 'cancellation', 'restored'] as const),
  ...(['requested', 'declined'] as const),
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
    const text = writeMessage('moved', language, VISIT, place);
    expect(text).toContain(place);
    expect(smsLength(text.replace(LINK, ADDRESS)).parts).toBeLessThanOrEqual(2);
    expect(writeMail('moved', language, VISIT, place)).toContain(`\n${place}`);
    expect(writeMessage('moved', language, VISIT)).not.toMatch(/place|lugar/);
  });

  it('of a text that asks for an answer say how to stop, and of a cancelled one how to get another time', () => {
    for (const kind of ['confirmation', 'reminder'] as const) {
      expect(writeMessage(kind, 'en', VISIT)).toMatch(/Reply Y .*STOP/s);
      expect(writeMessage(kind, 'es', VISIT)).toMatch(/Responda S .*ALTO/s);
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
