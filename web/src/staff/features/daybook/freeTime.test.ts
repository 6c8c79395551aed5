import { describe, expect, it } from 'vitest';
import { freeTimeFrom } from './freeTime.ts';
import { at, lane, plate } from './samples.ts';

const band = (from: number, to: number) => ({
  ...{
    start: at(from),
    end: at(to),
    online: [],
    kinds: null,
    typeIds: null,
    invitedOnly: false,
    hoursId: 'h',
    places: 1,
  },
});
const busy = { ...lane([plate('b', 560, 590), plate('a', 540, 560)]), hoursBands: [band(780, 900), band(540, 660)] };

describe('the free time of a lane', () => {
  it('begins behind the visits that follow each other, on five minutes', () => {
    expect(freeTimeFrom(busy, at(540))).toBe(at(590));
    expect(freeTimeFrom(busy, at(601))).toBe(at(605));
  });

  it('is within hours: before them, between them, after them', () => {
    expect(freeTimeFrom(busy, at(400))).toBe(at(590));
    expect(freeTimeFrom(busy, at(660))).toBe(at(780));
    expect(freeTimeFrom(busy, at(900))).toBeNull();
  });

  it('keeps clear of time off', () => {
    expect(freeTimeFrom({ ...busy, away: [{ start: at(590), end: at(640) }] }, at(540))).toBe(at(640));
  });
});
