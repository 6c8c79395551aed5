import { describe, expect, it } from 'vitest';
import { latenessOf, LONG_WAIT_MIN, stillToTell, TOLD_AHEAD_MIN, waitOf } from './delay.ts';

const NOW = 1_000_000;
const visit = (id: string, start: number, status: 'booked' | 'arrived' | 'cancelled' = 'booked') => ({
  id,
  start: NOW + start,
  status,
});

describe('a provider who runs late', () => {
  it('is told of to those at home who would wait, soonest first', () => {
    const visits = [visit('later', 60), visit('soon', 10), visit('here', 5, 'arrived'), visit('gone', 20, 'cancelled')];
    expect(stillToTell(visits, NOW, 20).map(({ id }) => id)).toEqual(['soon', 'later']);
  });

  it('is told of to who should be there already, as long as they have not been called in', () => {
    expect(stillToTell([visit('begun', -19)], NOW, 20)).toHaveLength(1);
    expect(stillToTell([visit('over', -20)], NOW, 20)).toHaveLength(0);
  });

  it('is not told of to those of the afternoon: it may be made up by then', () => {
    expect(stillToTell([visit('edge', TOLD_AHEAD_MIN)], NOW, 90)).toHaveLength(1);
    expect(stillToTell([visit('beyond', TOLD_AHEAD_MIN + 1)], NOW, 90)).toHaveLength(0);
  });
});

// A grace of 15 minutes is common practice; there is no standard for it.
describe('a patient who is late', () => {
  it('is late from the first full minute on, and past the limit only beyond it', () => {
    expect(latenessOf(NOW, NOW, 0, 15)).toBeNull();
    expect(latenessOf(NOW, NOW + 1, 0, 15)).toEqual({ minutes: 1, isPastLimit: false });
    expect(latenessOf(NOW, NOW + 15, 0, 15)).toEqual({ minutes: 15, isPastLimit: false });
    expect(latenessOf(NOW, NOW + 16, 0, 15)).toEqual({ minutes: 16, isPastLimit: true });
  });

  it('is not blamed for the minutes that the provider is behind', () => {
    expect(latenessOf(NOW, NOW + 20, 20, 15)).toBeNull();
    expect(latenessOf(NOW, NOW + 36, 20, 15)).toEqual({ minutes: 16, isPastLimit: true });
  });

  it('is past no limit where the clinic has none', () => {
    expect(latenessOf(NOW, NOW + 200, 0, null)).toEqual({ minutes: 200, isPastLimit: false });
  });
});

describe('a patient who waits', () => {
  it('waits from the first full minute on, and long beyond a quarter of an hour', () => {
    expect(waitOf(NOW, NOW)).toBeNull();
    expect(waitOf(NOW - 1.5, NOW)).toEqual({ minutes: 1, isLong: false });
    expect(waitOf(NOW - LONG_WAIT_MIN, NOW)).toEqual({ minutes: LONG_WAIT_MIN, isLong: false });
    expect(waitOf(NOW - LONG_WAIT_MIN - 1, NOW)).toEqual({ minutes: LONG_WAIT_MIN + 1, isLong: true });
  });
});
