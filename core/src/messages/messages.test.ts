import fc from 'fast-check';
import { SegmentedMessage } from 'sms-segments-calculator';
import { describe, expect, it } from 'vitest';
import { readReply, smsLength } from './index.ts';

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

describe('a reply', () => {
  it.each(['Y', 'yes', ' 1 ', 'Sí', 'SI!', '“y”'])('%s confirms', (text) => expect(readReply(text)).toBe('confirm'));
  // 47 CFR 64.1200(a)(10), from memory: stop, quit, end, revoke, opt out, cancel, unsubscribe.
  it.each([
    'STOP',
    'quit',
    'End.',
    'revoke',
    'opt out',
    'Opt-Out'.replace('-', ' '),
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
