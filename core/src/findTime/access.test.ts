import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { DAY, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { ACCESS, type Access } from '../availability/index.ts';
import { planVisit } from '../booking/index.ts';
import { ClinicIndex, type ClinicSnapshot, ClinicStore, openStarts, providersToTry } from '../openings/index.ts';
import { addDays, cellsOf, epochOfCell, wallToEpoch } from '../time/index.ts';
import { firstTimes, minimalRelaxations, withAccess, type Where } from './index.ts';

const ROOM = { kind: 'room' as const, bookableOnline: true, capabilities: [] };
const inRoom = {
  ...VISIT,
  parts: [
    { lengthMin: 30, needs: [...VISIT.parts[0].needs, { key: 'room', what: 'pool' as const, poolKind: 'exam' }] },
  ],
};
/** Two rooms, of which one has a table that lowers; the site is step-free. */
const rooms = (change: Partial<ClinicSnapshot> = {}): ClinicSnapshot =>
  smallClinic({
    sites: [{ ...smallClinic().sites[0], access: ['step-free'] }],
    resources: [
      ...smallClinic().resources,
      { id: 'small', ...ROOM, access: [] },
      { id: 'large', ...ROOM, access: ['adjustable-table'] },
    ],
    pools: [{ id: 'exam', siteId: 'site', kind: 'exam', memberIds: ['small', 'large'] }],
    visitTypes: [inRoom],
    ...change,
  });
const now = wallToEpoch(ZONE, DAY, 300);
const WISH = { visitTypeId: 'visit', kind: 'established', channel: 'desk' } as const;
const where: Where = {
  ...{ siteIds: ['site'], providerIds: null, from: DAY, until: addDays(DAY, 6), weekdays: null },
  ...{ fromMinute: 0, toMinute: 1440, language: null },
};
const found = (snapshot: ClinicSnapshot, needs: readonly Access[]) =>
  firstTimes(new ClinicIndex(withAccess(new ClinicStore(snapshot), needs), now), WISH, where, 200).length;

describe('a time for somebody with needs', () => {
  it('is in a room that has them, its site’s among them', () => {
    const all = found(rooms(), []);
    expect(all).toBeGreaterThan(20);
    expect(found(rooms(), ['step-free'])).toBe(all);
    expect(found(rooms(), ['step-free', 'adjustable-table'])).toBe(all);
    expect(found(rooms(), ['adjustable-table', 'patient-lift'])).toBe(0);
    // The large room is taken all morning; the small one does not do.
    const busy = rooms({
      occupied: [
        {
          resourceId: 'large',

          start: wallToEpoch(ZONE, DAY, 480),
          end: wallToEpoch(ZONE, DAY, 720),
          visitId: 'v',
        },
      ],
    });
    const today = (needs: readonly Access[]) =>
      firstTimes(new ClinicIndex(withAccess(new ClinicStore(busy), needs), now), WISH, { ...where, until: DAY }, 200)
        .length;
    expect([today([]) > 0, today(['adjustable-table'])]).toEqual([true, 0]);
  });

  it('is at a site that has them, where the visit needs no room', () => {
    const roomless = rooms({ visitTypes: [VISIT] });
    expect(found(roomless, ['step-free'])).toBe(found(roomless, []));
    expect(found(roomless, ['adjustable-table'])).toBe(0);
  });

  it('is told what to give up: access last, and only if it helps', () => {
    const store = new ClinicStore(rooms());
    const lift = withAccess(store, ['patient-lift']);
    const relaxed = (anywhere: ClinicIndex | null) =>
      minimalRelaxations(new ClinicIndex(lift, now), WISH, where, ['site'], anywhere).map(({ giveUp }) => giveUp);
    expect(relaxed(new ClinicIndex(store, now))).toEqual([['access']]);
    expect(relaxed(null)).toEqual([]);
    expect(withAccess(store, [])).toBe(store);
  });

  it('books only rooms that have them, and misses none, on random clinics', () => {
    // Clinics, not starts: a few clinics have most of the starts, and a rare draw has none of those.
    let met = 0;
    let unmet = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const { snapshot, now: at, criteria, siteId, providerId, date } = randomCase(draw);
        const some = () => ACCESS.filter(() => draw.chance(45));
        const sites = snapshot.sites.map((site) => ({ ...site, access: some() }));
        const resources = snapshot.resources.map((row) => (row.kind === 'room' ? { ...row, access: some() } : row));
        const needs = [draw.pick(ACCESS)];
        const store = new ClinicStore({ ...snapshot, sites, resources });
        const own = withAccess(store, needs);
        const has = (id: string) =>
          needs.every((need) =>
            [...sites.filter((site) => site.id === siteId), ...resources.filter((row) => row.id === id)].some((row) =>
              ('access' in row ? (row.access ?? []) : []).includes(need),
            ),
          );
        const [all, mine] = [store, own].map((clinic) => {
          const index = new ClinicIndex(clinic, at);
          return { index, starts: cellsOf(openStarts(index, criteria, siteId, providerId, date)) };
        });
        const day = store.day(siteId, date);
        if (mine.starts.length > 0) met++;
        for (const cell of mine.starts) {
          const planned = planVisit(mine.index, criteria, siteId, providerId, epochOfCell(day, cell));
          if (!planned.ok) throw new Error('A start that is offered can be planned.');
          const taken = planned.plan.occupancy.map(({ resourceId }) => resourceId);
          const used = taken.filter((id) => resources.some((row) => row.id === id && row.kind === 'room'));
          expect(used.filter((id) => !has(id))).toEqual([]);
        }
        // Where every room has what is needed, and the site too, nothing is missing.
        const rooms = resources.filter(({ kind }) => kind === 'room');
        if (rooms.every(({ id }) => has(id)) && has('')) expect(mine.starts).toEqual(all.starts);
        else if (all.starts.length > mine.starts.length) unmet++;
        expect(providersToTry(mine.index, criteria.visitTypeId, null)).toEqual(
          providersToTry(all.index, criteria.visitTypeId, null),
        );
      }),
      { numRuns: 800, endOnFailure: true },
    );
    expect(met).toBeGreaterThan(2);
    expect(unmet).toBeGreaterThan(2);
  });
});
