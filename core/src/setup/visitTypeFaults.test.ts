import { describe, expect, it } from 'vitest';
import { DAY, HOURS, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { ClinicIndex, type ClinicSnapshot, openStarts } from '../openings/index.ts';
import { cellsOf, wallToEpoch } from '../time/index.ts';
import type { Need, VisitType } from '../visits/index.ts';
import { visitTypeFaults } from './index.ts';

const room = (key: string, more: Partial<Need> = {}): Need =>
  ({ key, what: 'pool', poolKind: 'room', ...more }) as Need;
const doctor: Need = { key: 'doctor', what: 'provider' };
const type = (...parts: readonly { lengthMin: number; needs: readonly Need[] }[]): VisitType => ({ ...VISIT, parts });
const faults = (draft: VisitType, change: Partial<ClinicSnapshot> = {}) =>
  visitTypeFaults(smallClinic(change), draft).map(({ code, part, need }) => [code, part, need]);
/** Starts on an empty day, asked of the search itself: a fault is right only if there is none. */
const startsOf = (draft: VisitType, change: Partial<ClinicSnapshot> = {}) => {
  const index = new ClinicIndex(smallClinic({ ...change, visitTypes: [draft] }), wallToEpoch(ZONE, DAY, 0));
  const criteria = { visitTypeId: draft.id, kind: 'established', channel: 'desk' } as const;
  return cellsOf(openStarts(index, criteria, 'site', 'doctor', DAY)).length;
};

describe('a visit type that can be booked nowhere', () => {
  it('finds no fault in one that can', () => {
    const draft = type({ lengthMin: 15, needs: [room('a'), room('b')] }, { lengthMin: 15, needs: [doctor, room('c')] });
    expect(faults(draft)).toEqual([]);
    expect(startsOf(draft)).toBeGreaterThan(0);
  });

  it.each([
    {
      name: 'a pool that no site has',
      draft: type({ lengthMin: 15, needs: [doctor, { key: 'x', what: 'pool', poolKind: 'laser' }] }),
      found: [['pool-nowhere', 0, 1]],
    },
    {
      name: 'three rooms at once of two',
      draft: type({ lengthMin: 15, needs: [doctor, room('a'), room('b'), room('c')] }),
      found: [['needs-more-than-there-are', 0, 3]],
    },
    {
      name: 'longer than the longest day',
      draft: type({ lengthMin: 245, needs: [doctor] }),
      found: [['longer-than-any-hours', -1, -1]],
    },
    {
      name: 'somebody able to do what nobody can',
      draft: type({ lengthMin: 15, needs: [doctor, { key: 'x', what: 'present', capability: 'sedation' }] }),
      found: [['nobody-able', 0, 1]],
    },
    {
      name: 'the same device twice at once',
      draft: type({
        lengthMin: 15,
        needs: [
          doctor,
          { key: 'x', what: 'resource', resourceId: 'room-a' },
          { key: 'y', what: 'resource', resourceId: 'room-a' },
        ],
      }),
      found: [['device-twice', 0, 2]],
    },
  ] as const)('names $name, and the search agrees', ({ draft, found }) => {
    expect(faults(draft)).toEqual(found);
    expect(startsOf(draft)).toBe(0);
  });

  it('lets two parts have the same device one after the other', () => {
    const device: Need = { key: 'x', what: 'resource', resourceId: 'room-a' };
    const draft = type(
      { lengthMin: 15, needs: [doctor, device] },
      { lengthMin: 15, needs: [doctor, { ...device, key: 'y' }] },
    );
    expect(faults(draft)).toEqual([]);
    expect(startsOf(draft)).toBeGreaterThan(0);
  });

  it('names a part that no stretch of hours holds, though the day is long enough', () => {
    const workingHours = [
      { ...HOURS, toMinute: 600 },
      { ...HOURS, id: 'later', fromMinute: 630, toMinute: 720 },
    ];
    const draft = type({ lengthMin: 150, needs: [doctor] });
    expect(faults(draft, { workingHours })).toEqual([['part-longer-than-hours', 0, 0]]);
    expect(startsOf(draft, { workingHours })).toBe(0);
  });

  it('allows a break in the middle, while the doctor is free', () => {
    const workingHours = [
      { ...HOURS, toMinute: 600 },
      { ...HOURS, id: 'later', fromMinute: 630, toMinute: 720 },
    ];
    const draft = type(
      { lengthMin: 60, needs: [doctor, room('a')] },
      { lengthMin: 60, needs: [room('b')] },
      { lengthMin: 30, needs: [doctor, room('c')] },
    );
    expect(faults(draft, { workingHours })).toEqual([]);
    expect(startsOf(draft, { workingHours })).toBeGreaterThan(0);
  });

  it('names a tie between two kinds of things', () => {
    const chair: Need = { key: 'chair', what: 'pool', poolKind: 'chair', sameAs: 'a' };
    const pools = [
      { id: 'rooms', siteId: 'site', kind: 'room', memberIds: ['room-a', 'room-b'] },
      { id: 'chairs', siteId: 'site', kind: 'chair', memberIds: ['room-b'] },
    ];
    const draft = type({ lengthMin: 15, needs: [room('a')] }, { lengthMin: 15, needs: [doctor, chair] });
    expect(faults(draft, { pools })).toEqual([['bound-to-other-pool', 1, 1]]);
  });

  it('judges only the sites and people that perform it', () => {
    const sites = [...smallClinic().sites, { id: 'far', zone: ZONE, bookableOnline: true }];
    const pools = [{ id: 'rooms', siteId: 'far', kind: 'room', memberIds: ['room-a'] }];
    const draft = { ...type({ lengthMin: 15, needs: [doctor, room('a')] }), siteIds: ['site'] };
    expect(faults(draft, { sites, pools })).toEqual([['pool-nowhere', 0, 1]]);
    expect(faults({ ...draft, siteIds: null }, { sites, pools })).toEqual([]);
    const long = { ...type({ lengthMin: 300, needs: [doctor] }), providerIds: ['doctor'] };
    const other = { ...HOURS, id: 'other', subject: { of: 'resource' as const, id: 'other' }, toMinute: 1020 };
    const resources = [
      ...smallClinic().resources,
      { id: 'other', kind: 'provider' as const, bookableOnline: true, capabilities: [] },
    ];
    expect(faults(long, { resources, workingHours: [HOURS, other] })).toEqual([['longer-than-any-hours', -1, -1]]);
    expect(faults({ ...long, providerIds: null }, { resources, workingHours: [HOURS, other] })).toEqual([]);
  });

  it('says nothing about hours where there are none yet', () => {
    expect(faults(type({ lengthMin: 600, needs: [doctor] }), { workingHours: [] })).toEqual([]);
  });
});
