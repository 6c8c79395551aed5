import { expect, it } from 'vitest';
import { type Answer, answerFaults, type FieldKind } from './fieldAnswers.ts';

const asked = (kind: FieldKind, required = false) => [{ id: 'f', kind, required, choices: ['Cat', 'Dog'] }];

it.each<[FieldKind, Answer, string | undefined]>([
  ['text', 'a word', undefined],
  ['text', 7, 'not-text'],
  ['choice', 'Cat', undefined],
  ['choice', 'cat', 'not-a-choice'],
  ['date', '2026-02-28', undefined],
  ['date', '2026-02-30', 'not-a-date'],
  ['number', 0, undefined],
  ['number', Number.NaN, 'not-a-number'],
  ['number', '7', 'not-a-number'],
  ['yes-no', false, undefined],
  ['yes-no', 'no', 'not-yes-or-no'],
])('a field of the kind %s answered with %s: %s', (kind, answer, fault) => {
  expect(answerFaults(asked(kind), { f: answer }).f).toBe(fault);
});

it('needs what is required, and takes “no” and 0 as answers', () => {
  expect(answerFaults(asked('text', true), {})).toEqual({ f: 'needed' });
  expect(answerFaults(asked('text', true), { f: '  ' })).toEqual({ f: 'needed' });
  expect(answerFaults(asked('yes-no', true), { f: false })).toEqual({});
  expect(answerFaults(asked('number', true), { f: 0 })).toEqual({});
});
