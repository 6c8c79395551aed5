import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HOLD_MINUTES, decideUnprovedHold, SHORT_HOLD_MINUTES, type UnprovedHold } from './holdShare.ts';

const hold = (n: number, caller: string, minutes = 20): UnprovedHold => ({ id: `h${n}`, caller, minutes, since: n });
const wanted = { caller: 'me', minutes: 20 };

describe('a hold of somebody not proved yet', () => {
  it('lives ten minutes within a tenth of the site’s day, three beyond it', () => {
    const live = [1, 2, 3, 4].map((n) => hold(n, `someone ${n}`));
    // Five of twenty minutes are a hundred: a tenth of a thousand, exactly at the limit.
    expect(decideUnprovedHold(live, wanted, 1000)).toEqual({ minutes: HOLD_MINUTES, giveWay: [] });
    expect(decideUnprovedHold(live, wanted, 999)).toEqual({ minutes: SHORT_HOLD_MINUTES, giveWay: ['h1'] });
  });

  it('takes from whoever keeps most, the oldest first, and from a single hold last', () => {
    const live = [hold(1, 'family'), hold(2, 'flood'), hold(3, 'flood'), hold(4, 'flood'), hold(5, 'other')];
    expect(decideUnprovedHold(live, wanted, 1000).giveWay).toEqual(['h2']);
    expect(decideUnprovedHold(live, wanted, 800).giveWay).toEqual(['h2', 'h3']);
    // Whoever asks again and again displaces themselves.
    expect(decideUnprovedHold(live, { caller: 'flood', minutes: 20 }, 1000).giveWay).toEqual(['h2']);
  });

  it('lets two be at it at once on however short a day', () => {
    expect(decideUnprovedHold([hold(1, 'a')], wanted, 60)).toEqual({ minutes: HOLD_MINUTES, giveWay: [] });
    expect(decideUnprovedHold([hold(1, 'a'), hold(2, 'b')], wanted, 60).giveWay).toEqual(['h1']);
  });

  it('never lets unproved holds keep more than a tenth (or two), whoever makes how many', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ caller: fc.nat(30), minutes: fc.integer({ min: 1, max: 24 }).map((n) => n * 5) }), {
          maxLength: 200,
        }),
        fc.integer({ min: 0, max: 600 }).map((n) => n * 5),
        (attempts, openMinutes) => {
          let live: UnprovedHold[] = [];
          for (const [n, { caller, minutes }] of attempts.entries()) {
            const { giveWay } = decideUnprovedHold(live, { caller: `c${caller}`, minutes }, openMinutes);
            live = [...live.filter(({ id }) => !giveWay.includes(id)), hold(n, `c${caller}`, minutes)];
            const kept = live.reduce((sum, each) => sum + each.minutes, 0);
            expect(kept <= openMinutes / 10 || live.length <= 2).toBe(true);
          }
        },
      ),
    );
  });
});
