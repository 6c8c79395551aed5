import type { PatientKind } from '../src/availability/index.ts';
import type { Channel, ClinicSnapshot, SearchCriteria } from '../src/openings/index.ts';
import { addDays, type EpochMinute, type LocalDate, wallToEpoch } from '../src/time/index.ts';

import {
  type Draw,
  DATES,
  ZONES,
  PROVIDERS,
  ROOMS,
  NURSES,
  stretch,
  rule,
  workingHours,
  dateChanges,
  limits,
  parts,
  payerRule,
  visits,
} from './randomParts.ts';

export type { Draw } from './randomParts.ts';

export interface RandomCase {
  readonly snapshot: ClinicSnapshot;
  readonly now: EpochMinute;
  readonly criteria: SearchCriteria;
  readonly siteId: string;
  readonly providerId: string | null;
  readonly date: LocalDate;
}

/** A clinic of two sites with one random question about one day. Visits may overlap: the search must not care. */
export function randomCase(draw: Draw): RandomCase {
  const date = draw.pick(DATES);
  const zone = draw.pick(ZONES);
  const all = workingHours(draw, date);
  const booked = visits(draw, date, zone);
  const type1 = parts(draw);
  const withProvider = type1.some((part) => part.needs.some((need) => need.what === 'provider'));
  const some = <T>(percent: number, make: () => T): T[] => (draw.chance(percent) ? [make()] : []);
  const day = { startDate: date, endDate: date };
  const span = () => {
    const s = stretch(draw);
    return { ...day, startMinute: s.fromMinute, endMinute: s.toMinute };
  };
  const busy = [...PROVIDERS, ...NURSES, ...ROOMS, 'e1'].flatMap((resourceId) =>
    Array.from({ length: draw.int(0, 3) }, (_, i) => {
      const start = wallToEpoch(zone, date, draw.int(4, 250) * 5) + draw.pick([0, 0, 2]);
      return {
        resourceId,
        start,
        end: start + draw.int(1, 60),
        visitId: draw.pick([`b${i}`, 'v0']),
      };
    }),
  );
  const snapshot: ClinicSnapshot = {
    sites: [
      { id: 'a', zone, bookableOnline: draw.chance(95) },
      { id: 'b', zone: 'America/Denver', bookableOnline: true },
    ],
    siteHours: some(92, () => ({
      id: 'h',
      siteId: 'a',
      rule: {
        weekdays: [1, 2, 3, 4, 5, 6, 7],
        everyWeeks: 1,
        anchorDate: date,
        effectiveFrom: addDays(date, -100),
        effectiveUntil: null,
      },
      fromMinute: draw.int(0, 90) * 5,
      toMinute: draw.int(200, 288) * 5,
    })),
    closures: some(12, () => ({ id: 'cl', siteId: 'a', ...span() })),
    resources: [
      ...PROVIDERS.map((id) => ({
        id,
        kind: 'provider' as const,
        bookableOnline: draw.chance(92),
        acceptsNew: draw.chance(92),
        capabilities: draw.chance(60) ? ['treats'] : [],
      })),
      ...NURSES.map((id) => ({ id, kind: 'staff' as const, bookableOnline: true, capabilities: [] })),
      ...ROOMS.map((id) => ({
        id,
        kind: 'room' as const,
        bookableOnline: true,
        capabilities: [],
        places: draw.pick([1, 1, 2]),
      })),
      { id: 'e1', kind: 'equipment', bookableOnline: true, capabilities: [] },
    ],
    pools: [
      { id: 'rooms', siteId: 'a', kind: 'room', memberIds: ROOMS.slice(0, draw.int(1, 3)) },
      ...some(92, () => ({
        id: 'nurses',
        siteId: 'a',
        kind: 'nurse',
        memberIds: draw.chance(20) ? [...NURSES, 'p1'] : [...NURSES],
      })),
    ],
    workingHours: all,
    dateChanges: dateChanges(draw, date, all),
    timeOff: PROVIDERS.flatMap((resourceId) =>
      some(15, () => ({ id: `o-${resourceId}`, resourceId, siteId: draw.pick([null, 'a', 'b']), ...span() })),
    ),
    keptFree: [...PROVIDERS, ...NURSES].flatMap((resourceId) =>
      some(15, () => ({
        id: `k-${resourceId}`,
        resourceId,
        siteId: draw.pick([null, 'a']),
        rule: rule(draw, date),
        ...stretch(draw),
      })),
    ),
    brush: Array.from({ length: draw.int(0, 3) }, (_, i) => ({
      id: `br${i}`,
      resourceId: draw.pick([...PROVIDERS, ...NURSES]),
      siteId: 'a',
      date,
      ...stretch(draw),
      value: draw.pick(['shown', 'desk-only', 'by-rule'] as const),
      order: i,
    })),
    visitTypes: [
      {
        id: 't1',
        parts: type1,
        beforeMin: draw.pick([0, 10]),
        afterMin: draw.pick([0, 5, 20]),
        providerIds: draw.pick([null, null, ['p1']]),
        siteIds: draw.chance(95) ? null : ['b'],
        spacing: some(15, () => ({
          otherTypeId: draw.pick(['t1', 't2']),
          minDays: draw.pick([null, 1, 3]),
          maxDays: null,
        })),
      },
      {
        id: 't2',
        parts: [{ lengthMin: 20, needs: [{ key: 'doctor', what: 'provider' }] }],
        beforeMin: 0,
        afterMin: 0,
        providerIds: null,
        siteIds: null,
        spacing: [],
      },
    ],
    policies: [
      ...some(95, () => ({
        id: 'po',
        visitTypeId: 't1',
        siteId: null,
        providerId: null,
        offered: draw.chance(95),
        kinds: draw.pick<PatientKind[] | null>([null, null, ['new']]),
        leadMin: draw.pick([null, 60, 600]),
        leadWorkingDays: draw.pick([null, null, 1, 2]),
        leadByMinute: 1020,
        windowDays: draw.pick([null, 0, 3]),
        gridMin: draw.pick([null, 5, 15, 20]),
      })),
      ...some(30, () => ({
        id: 'pn',
        visitTypeId: 't1',
        siteId: draw.pick([null, 'a']),
        providerId: draw.pick([null, 'p1']),
        offered: draw.pick([null, true, false]),
        kinds: null,
        leadMin: draw.pick([null, 0]),
        leadWorkingDays: null,
        leadByMinute: null,
        windowDays: draw.pick([null, 30]),
        gridMin: null,
      })),
    ],
    caps: some(20, () => ({
      id: 'cap',
      bucket: draw.pick(['provider-day', 'provider-type-day', 'site-type-day', 'provider-self-day'] as const),
      providerId: null,
      siteId: draw.pick([null, 'a']),
      visitTypeId: draw.pick([null, 't1']),
      max: draw.int(0, 3),
    })),
    travel: [
      { fromSiteId: 'a', toSiteId: 'b', minutes: 40 },
      { fromSiteId: 'b', toSiteId: 'a', minutes: 30 },
    ],
    payerRules: some(30, () => payerRule(draw)).concat(some(30, () => payerRule(draw))),
    occupied: busy,
    visits: booked,
  };
  const criteria: SearchCriteria = {
    visitTypeId: 't1',
    kind: draw.pick<PatientKind>(['new', 'established']),
    channel: draw.pick<Channel>(['online', 'online', 'desk', 'invited']),
    deskTimesToo: draw.chance(30),
    limits: draw.pick([null, null, null, limits(draw, date)]),
    patientId: draw.pick([null, 'me']),
    notBefore: draw.pick([null, null, null, addDays(date, 1)]),
    ignoreVisitId: draw.pick([null, null, 'v0']),
    payerId: draw.pick([null, null, null, null, 'pay']),
    hasReferral: draw.chance(50),
    hasAuthorization: draw.chance(50),
  };
  const now =
    wallToEpoch(zone, addDays(date, draw.pick([0, 0, -1, -2, -5])), draw.int(0, 200) * 5) + draw.pick([0, 0, 3]);
  return { snapshot, now, criteria, siteId: 'a', providerId: withProvider ? draw.pick(PROVIDERS) : null, date };
}
