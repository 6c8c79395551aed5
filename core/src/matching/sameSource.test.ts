import { expect, it } from 'vitest';
import { groupBySource, type SourceTraces } from './sameSource.ts';

const row = (id: string, more: Partial<SourceTraces> = {}): SourceTraces => ({
  ...{ id, browser: `b${id}`, contact: `c${id}`, address: `a${id}` },
  ...more,
});
const groups = (...rows: SourceTraces[]) => Object.fromEntries(groupBySource(rows));

it('joins bookings of one browser or one number, and those that hang together by either', () => {
  expect(
    groups(row('1', { browser: 'x' }), row('2', { browser: 'x', contact: 'y' }), row('3', { contact: 'y' }), row('4')),
  ).toEqual({
    1: '1',
    2: '1',
    3: '1',
  });
});

it('takes three from one connection for a family, and four for one source', () => {
  const from = (n: number) => Array.from({ length: n }, (_, i) => row(`${i}`, { address: 'home' }));
  expect(groups(...from(3))).toEqual({});
  expect(Object.keys(groups(...from(4)))).toHaveLength(4);
});

it('groups nobody where nothing is shared, and nothing of nobody', () => {
  expect(groups(row('1'), row('2', { address: null }), row('3', { address: null }))).toEqual({});
  expect(groups()).toEqual({});
});
