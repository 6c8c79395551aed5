import { expect, it } from 'vitest';
import { readConditionCode } from './conditionCode.ts';

// Codes of the published list (CDC/NCHS, ICD-10-CM 2025; from memory), of every length.
it.each([
  ['I10', 'I10'],
  ['j45.909', 'J45.909'],
  ['J45909', 'J45.909'],
  [' e11.9 ', 'E11.9'],
  ['L20.81', 'L20.81'],
  ['C7A.00', 'C7A.00'],
  ['S52.521A', 'S52.521A'],
  ['T63.441D', 'T63.441D'],
  ['U07.1', 'U07.1'],
  ['m1a 9xx0', 'M1A.9XX0'],
])('reads %s', (text, code) => {
  expect(readConditionCode(text)).toEqual({ ok: true, code });
});

it.each(['asthma', '1A0', 'I', 'I1', 'J45.90912', 'J45-9', 'É10', '%'])('does not read %s', (text) => {
  expect(readConditionCode(text)).toEqual({ ok: false, problem: 'not-a-code' });
});

it('says that nothing is there', () => {
  expect(readConditionCode(' . ')).toEqual({ ok: false, problem: 'empty' });
});
