import { expect, it } from 'vitest';
import { majorityAge, rightsOn } from './authority.ts';

const CHILD = { birthDate: '2010-06-15', majorityAge: 18 };
const parent = { kind: 'parent', rights: ['book', 'sign'] as const, fromDate: '2010-06-15', untilDate: null };

it.each([
  ['the day before it begins', '2010-06-14', []],
  ['the day it begins', '2010-06-15', ['book', 'sign']],
  ['the day before majority', '2028-06-14', ['book', 'sign']],
  ['the birthday of majority', '2028-06-15', []],
])('a parent’s rights on %s', (_, date, rights) => {
  expect(rightsOn(parent, date, CHILD)).toEqual(rights);
});

it('ends with its last date, included, and not before', () => {
  const until = { ...parent, untilDate: '2026-12-31' };
  expect(rightsOn(until, '2026-12-31', CHILD)).toEqual(['book', 'sign']);
  expect(rightsOn(until, '2027-01-01', CHILD)).toEqual([]);
});

it('goes beyond majority where a date says so, and for who is no parent', () => {
  expect(rightsOn({ ...parent, untilDate: '2030-01-01' }, '2029-01-01', CHILD)).toEqual(['book', 'sign']);
  expect(rightsOn({ ...parent, kind: 'caregiver' }, '2029-01-01', CHILD)).toEqual(['book', 'sign']);
});

// From memory: Alabama and Nebraska 19, Mississippi 21, elsewhere 18.
it.each([
  ['IL', 18],
  ['AL', 19],
  ['NE', 19],
  ['MS', 21],
])('childhood ends in %s with %d', (region, age) => {
  expect(majorityAge(region)).toBe(age);
});

it('is born on February 29: of age on March 1 of a year without one', () => {
  const leap = { birthDate: '2008-02-29', majorityAge: 18 };
  const rights = (date: string) => rightsOn({ ...parent, fromDate: '2008-02-29' }, date, leap).length;
  expect([rights('2026-02-28'), rights('2026-03-01')]).toEqual([2, 0]);
});
