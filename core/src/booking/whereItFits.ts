import {
  type ClinicIndex,
  type ClinicSnapshot,
  openDays,
  type RuleAnswer,
  type SearchCriteria,
  whyNot,
} from '../openings/index.ts';
import type { Subject } from '../availability/index.ts';
import { addDays, cellsOf, type EpochMinute, epochOfCell, type LocalDate, zoneDay } from '../time/index.ts';
import type { Part } from '../visits/index.ts';
import { mayWaive } from './override.ts';

/** All starts of one date that every rule passes, with one provider at one site. */
export interface Fits {
  readonly siteId: string;
  /** `null` where the visit type needs no provider. */
  readonly providerId: string | null;
  /** In time order. */
  readonly starts: readonly EpochMinute[];
}

/** Every place at which a visit could be on a date, the visit's own time included where it breaks no rule. */
export function whereItFits(
  index: ClinicIndex,
  criteria: SearchCriteria,
  siteIds: readonly string[],
  date: LocalDate,
): Fits[] {
  const range = { siteIds, providerIds: null, from: date, until: date };
  return [...openDays(index, criteria, range)].map(({ siteId, providerId, day, starts }) => ({
    siteId,
    providerId,
    starts: cellsOf(starts).map((cell) => epochOfCell(day, cell)),
  }));
}

/** What stands against one start: nothing, rules that a reason can set aside, or at least one that none can. */
export interface Judgment {
  /** The rules that refuse it, in the order of explaining; empty where it fits. */
  readonly refused: readonly RuleAnswer[];
  /** Whether a reason would do: every rule that refuses it may be set aside. */
  readonly byReason: boolean;
}

/**
 * What the desk's move of a visit to a start comes to, asked of the same rules as the move itself.
 *
 * @param start an instant on a five-minute mark; throws `RangeError` otherwise
 */
export function judgeMove(
  index: ClinicIndex,
  criteria: SearchCriteria,
  to: { readonly siteId: string; readonly providerId: string | null; readonly start: EpochMinute },
): Judgment {
  const { answers } = whyNot(index, criteria, to.siteId, to.providerId, to.start);
  const refused = answers.filter(({ passed }) => !passed);
  return { refused, byReason: refused.length > 0 && refused.every(({ code }) => mayWaive(code)) };
}

/** Dates on either side whose taken stretches still matter: zones, travel and gaps reach over midnight. */
const NEAR_DAYS = 1;

/**
 * What of a clinic moving one visit on one date needs to know, for a browser: nobody's name, no reason or note, of
 * patients only whose visit it is, and of people, rooms and equipment the hours and visits of those alone who could
 * serve it. Judged by it, a start fits just where it does in the whole.
 */
export function snapshotForMove(
  clinic: ClinicSnapshot,
  { visitTypeId, parts, patientId = null }: Pick<SearchCriteria, 'visitTypeId' | 'parts' | 'patientId'>,
  date: LocalDate,
): ClinicSnapshot {
  const serves = whoCouldServe(clinic, visitTypeId, parts ?? null);
  const isNear = nearTo(clinic, date);
  const pools = clinic.pools.filter(({ memberIds }) => memberIds.some((id) => serves.has(id)));
  const poolIds = new Set(pools.map(({ id }) => id));
  const concerns = ({ of, id }: Subject) => (of === 'resource' ? serves : poolIds).has(id);
  return {
    ...clinic,
    closures: clinic.closures.map(({ id, siteId, startDate, startMinute, endDate, endMinute }) => ({
      ...{ id, siteId, startDate, startMinute, endDate, endMinute },
    })),
    pools,
    workingHours: clinic.workingHours.filter(({ subject }) => concerns(subject)),
    dateChanges: clinic.dateChanges.filter(({ subject }) => concerns(subject)),
    timeOff: clinic.timeOff
      .filter(({ resourceId }) => serves.has(resourceId))
      .map(({ id, resourceId, siteId, startDate, startMinute, endDate, endMinute, coverId }) => ({
        ...{ id, resourceId, siteId, startDate, startMinute, endDate, endMinute, coverId },
      })),
    keptFree: clinic.keptFree
      .filter(({ resourceId }) => serves.has(resourceId))
      .map(({ id, resourceId, siteId, rule, fromMinute, toMinute }) => ({
        ...{ id, resourceId, siteId, rule, fromMinute, toMinute },
      })),
    visitTypes: clinic.visitTypes.filter(({ id }) => id === visitTypeId),
    policies: clinic.policies.filter((row) => row.visitTypeId === visitTypeId),
    // Who pays, and what is shown online, bind nobody at the desk.
    payerRules: [],
    brush: [],
    occupied: clinic.occupied.filter((row) => serves.has(row.resourceId) && isNear(row)),
    visits: clinic.visits.flatMap((visit) => {
      if (patientId !== null && visit.patientId === patientId) return [visit];
      const counts = visit.visitTypeId === visitTypeId || (visit.providerId !== null && serves.has(visit.providerId));
      return counts && isNear(visit) ? [{ ...visit, patientId: null }] : [];
    }),
  };
}

/** Everybody and everything that a part of the visit could ask for, at any site. */
function whoCouldServe(clinic: ClinicSnapshot, visitTypeId: string, own: readonly Part[] | null): ReadonlySet<string> {
  const type = clinic.visitTypes.find(({ id }) => id === visitTypeId);
  const serves = new Set<string>(
    type?.providerIds ?? clinic.resources.filter(({ kind }) => kind === 'provider').map(({ id }) => id),
  );
  const add = (ids: readonly string[]) => {
    for (const id of ids) serves.add(id);
  };
  for (const need of (own ?? type?.parts ?? []).flatMap(({ needs }) => needs)) {
    if (need.what === 'resource') serves.add(need.resourceId);
    if (need.what === 'pool')
      add(clinic.pools.filter(({ kind }) => kind === need.poolKind).flatMap(({ memberIds }) => memberIds));
    if (need.what === 'present')
      add(clinic.resources.filter((row) => row.capabilities.includes(need.capability)).map(({ id }) => id));
  }
  return serves;
}

function nearTo(clinic: ClinicSnapshot, date: LocalDate): (row: { start: EpochMinute; end: EpochMinute }) => boolean {
  const zones = clinic.sites.map(({ zone }) => zone);
  const from = Math.min(...zones.map((zone) => zoneDay(zone, addDays(date, -NEAR_DAYS)).start));
  const until = Math.max(...zones.map((zone) => zoneDay(zone, addDays(date, NEAR_DAYS)).end));
  return ({ start, end }) => start < until && end > from;
}
