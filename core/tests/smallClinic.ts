import type { ClinicSnapshot, OnlinePolicy, PayerRule } from '../src/openings/index.ts';
import type { WorkingHours } from '../src/availability/index.ts';
import { wallToEpoch } from '../src/time/index.ts';
import type { BookedVisit, VisitType } from '../src/visits/index.ts';

/** A Wednesday in a week without clock changes. */
export const DAY = '2026-06-10';
export const ZONE = 'America/Chicago';

const EVERY_DAY = {
  weekdays: [1, 2, 3, 4, 5, 6, 7] as const,
  everyWeeks: 1,
  anchorDate: '2026-01-01',
  effectiveFrom: '2026-01-01',
  effectiveUntil: null,
};

export const HOURS: WorkingHours = {
  id: 'hours',
  subject: { of: 'resource', id: 'doctor' },
  siteId: 'site',
  rule: EVERY_DAY,
  followsSiteHours: false,
  fromMinute: 480,
  toMinute: 720,
  places: 1,
  accepts: { visitTypeIds: null, kinds: null, invitedOnly: false },
  online: true,
  release: null,
  caps: [],
};

export const POLICY: OnlinePolicy = {
  id: 'policy',
  visitTypeId: 'visit',
  siteId: null,
  providerId: null,
  offered: true,
  kinds: null,
  leadMin: null,
  leadWorkingDays: null,
  leadByMinute: null,
  windowDays: 30,
  gridMin: 5,
};

/** Of a payer that nothing is said about yet. */
export const PAYER: PayerRule = {
  payerId: 'payer',
  visitTypeId: null,
  siteId: null,
  providerId: null,
  accepted: null,
  referral: null,
  authorization: null,
};

export const VISIT: VisitType = {
  id: 'visit',
  parts: [{ lengthMin: 30, needs: [{ key: 'doctor', what: 'provider' }] }],
  beforeMin: 0,
  afterMin: 0,
  providerIds: null,
  siteIds: null,
  spacing: [],
};

/** One doctor at one site, 8:00 to 12:00 every day, one visit type of 30 minutes: what a row of a rule's table changes. */
export function smallClinic(change: Partial<ClinicSnapshot> = {}): ClinicSnapshot {
  return {
    sites: [{ id: 'site', zone: ZONE, bookableOnline: true }],
    siteHours: [
      {
        id: 'open',
        siteId: 'site',
        rule: { ...EVERY_DAY, weekdays: [1, 2, 3, 4, 5] },
        fromMinute: 450,
        toMinute: 1050,
      },
    ],
    closures: [],
    resources: [
      { id: 'doctor', kind: 'provider', bookableOnline: true, capabilities: [] },
      { id: 'room-a', kind: 'room', bookableOnline: true, capabilities: [] },
      { id: 'room-b', kind: 'room', bookableOnline: true, capabilities: [] },
    ],
    pools: [{ id: 'rooms', siteId: 'site', kind: 'room', memberIds: ['room-a', 'room-b'] }],
    workingHours: [HOURS],
    dateChanges: [],
    timeOff: [],
    keptFree: [],
    brush: [],
    visitTypes: [VISIT],
    policies: [POLICY],
    caps: [],
    travel: [],
    payerRules: [],
    occupied: [],
    visits: [],
    ...change,
  };
}

/** Another visit of the small clinic's day, by wall minutes. */
export function otherVisit(from: number, to: number, more: Partial<BookedVisit> = {}): BookedVisit {
  const [start, end] = [from, to].map((minute) => wallToEpoch(ZONE, DAY, minute));
  return {
    id: 'other',
    visitTypeId: 'visit',
    siteId: 'site',
    providerId: 'doctor',
    patientId: 'someone',
    kind: 'established',
    selfBooked: true,
    start,
    end,
    providerStart: start,
    providerEnd: end,
    beforeMin: 0,
    afterMin: 0,
    date: DAY,
    ...more,
  };
}

/** A visit type of two parts of fifteen minutes, each in a room; `bind` ties the second room to the first. */
export function twoRoomParts(bind: object): Pick<ClinicSnapshot, 'visitTypes'> {
  return {
    visitTypes: [
      {
        ...VISIT,
        parts: [
          { lengthMin: 15, needs: [{ key: 'a', what: 'pool', poolKind: 'room' }] },
          {
            lengthMin: 15,
            needs: [
              { key: 'b', what: 'pool', poolKind: 'room', ...bind },
              { key: 'doctor', what: 'provider' },
            ],
          },
        ],
      },
    ],
  };
}
