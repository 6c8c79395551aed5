import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DAY, HOURS, POLICY, smallClinic, twoRoomParts, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { ClinicIndex, type ClinicSnapshot, ClinicStore, openStarts } from '../openings/index.ts';
import { cellsOf, wallToEpoch } from '../time/index.ts';
import { placesLeft } from './index.ts';

const at = (minute: number) => wallToEpoch(ZONE, DAY, minute);
const WISH = { visitTypeId: 'visit', kind: 'established', channel: 'online' } as const;
const WANTED = { criteria: WISH, siteId: 'site', from: DAY, until: DAY };
const placesIn = (change: Partial<ClinicSnapshot>, now = at(0)) =>
  placesLeft(new ClinicStore(smallClinic(change)), now, WANTED);

/** The most starts of which no two are nearer than the length, tried from behind (weighted interval scheduling). */
function mostApart(starts: readonly number[], length: number): number {
  const best = new Map<number, number>();
  for (let i = starts.length - 1; i >= 0; i--) {
    const next = starts.findIndex((start) => start >= starts[i] + length);
    const taken = 1 + (next < 0 ? 0 : (best.get(next) ?? 0));
    best.set(i, Math.max(taken, best.get(i + 1) ?? 0));
  }
  return best.get(0) ?? 0;
}

describe('how many visits still fit together', () => {
  // By hand: 8:00 to 12:00 are 240 minutes.
  it.each([
    { name: '30 minutes in four hours', change: {}, places: 8 },
    { name: 'with ten minutes after each, which nobody else may have', afterMin: 10, places: 6 },
    { name: 'on the full hour only', change: { policies: [{ ...POLICY, gridMin: 60 }] }, places: 4 },
    { name: 'none when it is not offered', change: { policies: [{ ...POLICY, offered: false }] }, places: 0 },
    { name: 'two at once where the hours take two', change: { workingHours: [{ ...HOURS, places: 2 }] }, places: 16 },
  ])('$name: $places', ({ change, afterMin, places }) => {
    expect(placesIn({ visitTypes: [{ ...VISIT, afterMin: afterMin ?? 0 }], ...change })).toBe(places);
  });

  it('leaves out what has passed', () => {
    expect(placesIn({}, at(600))).toBe(4);
  });

  it('stops at a cap', () => {
    const caps = [
      { id: 'cap', bucket: 'provider-day' as const, providerId: null, siteId: null, visitTypeId: null, max: 3 },
    ];
    expect(placesIn({ caps })).toBe(3);
  });

  it('shares a pool: two rooms for parts that overlap', () => {
    const busy = [{ resourceId: 'room-a', start: at(480), end: at(720), visitId: 'x' }];
    const apart = placesIn(twoRoomParts({}));
    const bound = placesIn({ ...twoRoomParts({ sameAs: 'a' }), occupied: busy });
    expect(apart).toBeGreaterThan(bound);
    // One room, 30 minutes each, the doctor only in the second half: the room decides.
    expect(bound).toBe(8);
  });

  it('takes everything out again, also when asked twice', () => {
    const store = new ClinicStore(smallClinic());
    const before = cellsOf(openStarts(new ClinicIndex(store, at(0)), WISH, 'site', 'doctor', DAY));
    const first = placesLeft(store, at(0), WANTED);
    expect(placesLeft(store, at(0), WANTED)).toBe(first);
    expect(cellsOf(openStarts(new ClinicIndex(store, at(0)), WISH, 'site', 'doctor', DAY))).toEqual(before);
  });

  it('is the most there can be for one provider, on random days', () => {
    let busyDays = 0;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 96, max: 143 }), fc.integer({ min: 1, max: 9 })), { maxLength: 5 }),
        fc.constantFrom(5, 10, 15, 20, 30),
        fc.integer({ min: 2, max: 12 }),
        (taken, gridMin, fives) => {
          const length = fives * 5;
          const occupied = taken.map(([cell, cells], i) => ({
            resourceId: 'doctor',

            start: at(cell * 5),
            end: at((cell + cells) * 5),
            visitId: `x${i}`,
          }));
          const snapshot = smallClinic({
            occupied,
            policies: [{ ...POLICY, gridMin }],
            visitTypes: [{ ...VISIT, parts: [{ ...VISIT.parts[0], lengthMin: length }] }],
          });
          const starts = cellsOf(openStarts(new ClinicIndex(snapshot, at(0)), WISH, 'site', 'doctor', DAY));
          if (taken.length) busyDays++;
          expect(placesLeft(new ClinicStore(snapshot), at(0), WANTED)).toBe(
            mostApart(
              starts.map((cell) => cell * 5),
              length,
            ),
          );
        },
      ),
      { numRuns: 300 },
    );
    expect(busyDays).toBeGreaterThan(100);
  });

  it('never says none where the search has a start, and never more than there are starts for one at a time', () => {
    let some = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const { snapshot, now, criteria, siteId, date } = randomCase(drawFrom(gen));
        // The patient's own visits and a move's old visit belong to one person: places are asked for nobody.
        const nobody = { visitTypeId: criteria.visitTypeId, kind: criteria.kind, channel: criteria.channel };
        const store = new ClinicStore(snapshot);
        const type = store.visitType(nobody.visitTypeId);
        const needs = type.parts.some((part) => part.needs.some(({ what }) => what === 'provider'));
        const providers = needs
          ? snapshot.resources.filter(({ kind }) => kind === 'provider').map(({ id }) => id)
          : [null];
        const index = new ClinicIndex(store, now);
        const starts = providers.flatMap((id) => cellsOf(openStarts(index, nobody, siteId, id, date)));
        const places = placesLeft(store, now, { criteria: nobody, siteId, from: date, until: date });
        if (places) some++;
        expect(places > 0).toBe(starts.length > 0);
      }),
      { numRuns: 400 },
    );
    expect(some).toBeGreaterThan(10);
  });
});
