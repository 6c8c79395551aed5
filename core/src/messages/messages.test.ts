import fc from 'fast-check';
import { SegmentedMessage } from 'sms-segments-calculator';
import { describe, expect, it } from 'vitest';
import { afterReceipt, readContact, readReply, type Receipt, smsLength, nonGsmLetters } from './index.ts';

/** 3GPP TS 23.038: 160 septets alone, 153 joined; 70 and 67 UTF-16 units. */
describe('how many text messages a text takes', () => {
  it.each([
    ['a'.repeat(160), 'GSM-7', 160, 1],
    ['a'.repeat(161), 'GSM-7', 161, 2],
    ['a'.repeat(306), 'GSM-7', 306, 2],
    ['a'.repeat(307), 'GSM-7', 307, 3],
    [`${'a'.repeat(158)}€`, 'GSM-7', 160, 1],
    [`${'a'.repeat(159)}€`, 'GSM-7', 161, 2],
    [`${'a'.repeat(152)}€${'a'.repeat(152)}`, 'GSM-7', 306, 3],
    ['ñ'.repeat(160), 'GSM-7', 160, 1],
    ['í'.repeat(70), 'UCS-2', 70, 1],
    ['í'.repeat(71), 'UCS-2', 71, 2],
    [`${'í'.repeat(66)}😀${'í'.repeat(66)}`, 'UCS-2', 134, 3],
    ['', 'GSM-7', 0, 1],
  ])('case %#', (text, alphabet, units, parts) => {
    expect(smsLength(text)).toEqual({ alphabet, units, parts });
  });

  it('agrees with sms-segments-calculator on random texts', () => {
    const text = fc
      .array(fc.constantFrom('a', 'Z', ' ', '€', '{', 'ñ', 'é', 'í', '😀', '\n', '1'), { maxLength: 400 })
      .map((all) => all.join(''));
    fc.assert(
      fc.property(text, (each) => {
        const theirs = new SegmentedMessage(each, 'auto', false);
        const ours = smsLength(each);
        expect([ours.parts, ours.alphabet]).toEqual([
          Math.max(1, theirs.segmentsCount),
          theirs.encodingName === 'UCS-2' ? 'UCS-2' : 'GSM-7',
        ]);
      }),
      { numRuns: 500 },
    );
  });
});

describe('letters that make a text message cost double', () => {
  it.each([
    ['Brindlewood Allergy & Asthma', null],
    ['Niño García', { letters: ['í'], instead: 'Niño Garcia' }],
    ['Dr. Lee’s “Clinic” – West…', { letters: ['’', '“', '”', '–', '…'], instead: `Dr. Lee's "Clinic" - West...` }],
    ['Clínica Núñez, Cafetería', { letters: ['í', 'ú'], instead: 'Clinica Nuñez, Cafeteria' }],
    ['Sunshine ☀', { letters: ['☀'], instead: null }],
    ['é à ñ ü € [x]', null],
  ])('%j', (text, found) => {
    expect(nonGsmLetters(text)).toEqual(found);
  });

  // Peer: sms-segments-calculator.
  it('are those for which sms-segments-calculator leaves the GSM alphabet', () => {
    const text = fc.string({ unit: fc.constantFrom(...'aZ9é’íñ“–☀[€ó&'), maxLength: 30 });
    fc.assert(
      fc.property(text, (each) => {
        const isUcs2 = new SegmentedMessage(each, 'auto', false).encodingName === 'UCS-2';
        expect(nonGsmLetters(each) !== null).toBe(isUcs2);
        const instead = nonGsmLetters(each)?.instead;
        if (instead) expect(new SegmentedMessage(instead, 'auto', false).encodingName).toBe('GSM-7');
      }),
      { numRuns: 400 },
    );
  });
});

describe('a reply', () => {
  it.each(['Y', 'yes', ' 1 ', 'Sí', 'SI!', '“y”'])('%s confirms', (text) => expect(readReply(text)).toBe('confirm'));
  // 47 CFR 64.1200(a)(10), from memory: stop, quit, end, revoke, opt out, cancel, unsubscribe.
  it.each([
    'STOP',
    'quit',
    'End.',
    'revoke',
    'opt out',
    'OPT-OUT',
    'Opt‑out',
    'STOP ALL',
    'stop-all',
    'CANCEL',
    'unsubscribe',
    'Alto',
    'no más',
    'cancelar',
  ])('%s stops', (text) => expect(readReply(text)).toBe('stop'));
  it.each(['yes but later', 'stop by at 5?', '2', '', 'Can I bring my dog', 'no'])(
    '“%s” is for a person to read',
    (text) => expect(readReply(text)).toBe('other'),
  );
});

describe('a contact as typed', () => {
  it.each([
    ['312 555 0142', '+13125550142'],
    [' Ana.Ruiz@Example.COM ', 'ana.ruiz@example.com'],
    ['a+b@mail.example.org', 'a+b@mail.example.org'],
  ])('%s is %s', (typed, value) => expect(readContact(typed)).toMatchObject({ ok: true, value }));
  it.each([
    ['ana@example', 'email-not-an-address'],
    ['ana ruiz@example.com', 'email-not-an-address'],
    ['@example.com', 'email-not-an-address'],
    ['ana@@example.com', 'email-not-an-address'],
    [`${'a'.repeat(65)}@example.com`, 'email-not-an-address'],
    ['ana@example.com\nBcc: x@example.com', 'email-not-an-address'],
    ['', 'phone-empty'],
    ['12', 'phone-not-a-phone'],
  ])('%s is refused', (typed, problem) => expect(readContact(typed)).toEqual({ ok: false, problem }));
});

describe('receipts of a carrier', () => {
  const receipt = fc.record({
    state: fc.constantFrom('sent' as const, 'delivered' as const, 'failed' as const),
    at: fc.integer({ min: 0, max: 5 }),
  });
  const fold = (all: readonly Receipt[]) => all.reduce(afterReceipt, { state: 'sent', at: -1 } as Receipt);
  it('come to the same whatever their order, and however often each comes', () => {
    const shuffled = fc
      .array(receipt, { minLength: 1, maxLength: 6 })
      .chain((all) => fc.tuple(fc.constant(all), fc.shuffledSubarray([...all, ...all], { minLength: all.length * 2 })));
    fc.assert(
      fc.property(shuffled, ([all, again]) => {
        expect(fold(again)).toEqual(fold(all));
      }),
    );
  });
  it.each([
    [
      [
        ['delivered', 2],
        ['sent', 1],
      ],
      'delivered',
    ],
    [
      [
        ['sent', 3],
        ['delivered', 2],
      ],
      'delivered',
    ],
    [
      [
        ['delivered', 2],
        ['failed', 3],
      ],
      'failed',
    ],
    [
      [
        ['failed', 2],
        ['delivered', 3],
      ],
      'delivered',
    ],
    [
      [
        ['failed', 2],
        ['delivered', 2],
      ],
      'failed',
    ],
  ] as const)('case %#', (all, state) => {
    expect(fold(all.map(([each, at]) => ({ state: each, at }))).state).toBe(state);
  });
});
