import type { Lane, Plate, SiteDay } from '@zaguan/contracts/daybook';

/** A small day for tests. */
export const DAY_START = '2026-12-01T06:00:00.000Z';
export const at = (minute: number) => new Date(Date.parse(DAY_START) + minute * 60_000).toISOString();
export const plate = (id: string, from: number, to: number): Plate => ({
  id,
  kind: 'visit',
  providerId: null,
  resourceId: 'r',
  start: at(from),
  end: at(to),
  drawn: { start: at(from), end: at(to) },
  present: [],
  visitTypeId: 't',
  status: 'booked',
  confirmed: false,
  identity: 'sure',
  approval: 'not-needed',
  origin: 'desk',
  patientKind: 'new',
  patientId: null,
  name: 'Wren Yamamoto',
  shortName: 'Yamamoto W.',
  familyFirst: 'Yamamoto, Wren',
  reason: '',
  alert: '',
  waived: [],
  groupKind: null,
  bookedBy: null,
  cancelReason: null,
  readiness: null,
  version: 1,
});
export const lane = (plates: Plate[]): Lane => ({
  id: 'l',
  resourceId: 'r',
  name: 'R',
  detail: '',
  kind: 'provider',
  hoursBands: [],
  away: [],
  keptFree: [],
  plates,
  booked: null,
});
export const site = (plates: Plate[]): SiteDay => ({
  id: 's',
  name: 'S',
  timeZone: 'America/Chicago',
  dayStart: DAY_START,
  dayEnd: at(1440),
  closed: [],
  open: [],
  lanes: [lane(plates)],
});
