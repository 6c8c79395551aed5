import type { Subject, WorkingHours } from '../availability/index.ts';
import type { ClinicStore } from '../openings/index.ts';
import { addDays, datesFrom, type EpochMinute, epochOfCell, type LocalDate } from '../time/index.ts';
import type { Fault } from './edits.ts';
import type { RowChanges } from './rows.ts';

/** How far ahead overlaps are looked for, in days: two rules with coprime intervals up to 8 weeks meet within 56 weeks. */
export const DAYS_SEARCHED = 400;

export interface Worked {
  /** Of recurring hours, or of a single-date change. */
  readonly sourceId: string;
  readonly siteId: string;
  readonly date: LocalDate;
  readonly start: EpochMinute;
  readonly end: EpochMinute;
}

/** Whoever works by hours of a subject. Rooms and devices may have hours that overlap; people can't be in two places. */
export function peopleOf(store: ClinicStore, subject: Subject): string[] {
  const ids =
    subject.of === 'resource'
      ? [subject.id]
      : (store.plan.pools.find((pool) => pool.id === subject.id)?.memberIds ?? []);
  return ids.filter((id) => {
    const kind = store.plan.resources.find((resource) => resource.id === id)?.kind;
    return kind === 'provider' || kind === 'staff';
  });
}

/** All that a person works on a date at a site, as instants. */
function workedOn(store: ClinicStore, resourceId: string, siteId: string, date: LocalDate): Worked[] {
  const lane = store.lane(resourceId, siteId);
  if (!lane.everThere) return [];
  const day = store.day(siteId, date);
  const { stretches, removed } = store.planOn(lane, day);
  return stretches.slice(removed).map(({ sourceId, fromCell, toCell }) => ({
    sourceId,
    siteId,
    date,
    start: epochOfCell(day, fromCell),
    end: epochOfCell(day, toCell),
  }));
}

/** Two stretches of one person that can't both be worked, and all dates on which they meet. */
export interface Collision {
  readonly code: 'overlap' | 'no-travel-time';
  readonly resourceId: string;
  /** The recurring hours that were put; `null` where it was a single-date change. */
  readonly own: WorkingHours | null;
  /** What it meets: as it is worked on the first of the dates. */
  readonly other: Worked;
  readonly dates: readonly LocalDate[];
  /** At one site: nobody is in two places there. */
  readonly isHere: boolean;
  readonly travelMin: number;
}

/**
 * Where each changed stretch puts a person in two places at once, in one place twice, or leaves no time to get from one
 * site to the next. Compared as instants, so that sites in two zones are judged by when things really happen. At one
 * site, extra and changed hours may lie over recurring ones: they take their place there.
 */
export function collisionsOf(store: ClinicStore, changes: RowChanges, today: LocalDate): Collision[] {
  const rows = [...(changes.workingHours?.put ?? []), ...(changes.dateChanges?.put ?? [])];
  const touched = new Set(rows.map(({ id }) => id));
  const recurring = new Set(store.plan.workingHours.map(({ id }) => id));
  const people = new Set(rows.flatMap(({ subject }) => peopleOf(store, subject)));
  const found = new Map<string, Collision & { dates: LocalDate[] }>();
  for (const resourceId of people) {
    let before: Worked[] = [];
    for (const date of datesFrom(addDays(today, -1), addDays(lastStart(changes, today), DAYS_SEARCHED))) {
      const worked = store.plan.sites.flatMap((site) => workedOn(store, resourceId, site.id, date));
      // Across zones one site's date reaches into the other's neighboring one.
      for (const [a, b] of pairs(worked, before)) {
        if (!touched.has(a.sourceId) && !touched.has(b.sourceId)) continue;
        const isHere = a.siteId === b.siteId;
        if (isHere && !(recurring.has(a.sourceId) && recurring.has(b.sourceId))) continue;
        const code = meets(store, a, b);
        if (!code) continue;
        const [own, other] = touched.has(a.sourceId) ? [a, b] : [b, a];
        const key = [code, resourceId, ...[a.sourceId, b.sourceId].sort()].join(' ');
        const known = found.get(key);
        if (!known) {
          const travelMin = travel(store, a, b);
          const hours = store.plan.workingHours.find(({ id }) => id === own.sourceId) ?? null;
          found.set(key, { code, resourceId, own: hours, other, dates: [other.date], isHere, travelMin });
        } else if (known.dates.at(-1) !== other.date) known.dates.push(other.date);
      }
      before = worked;
    }
  }
  return [...found.values()];
}

/** Collisions as they are told: each once, with its first date and on how many it comes. */
export function collisions(store: ClinicStore, changes: RowChanges, edit: number, today: LocalDate): Fault[] {
  return collisionsOf(store, changes, today).map((collision) => faultOf(collision, edit));
}

export function faultOf({ code, resourceId, other, dates, isHere, travelMin }: Collision, edit: number): Fault {
  const facts = {
    ...{ resourceId, date: dates[0], siteId: other.siteId, start: other.start, end: other.end },
    ...{ sourceId: other.sourceId, days: dates.length },
    ...(isHere && { context: 'here' }),
    ...(code === 'no-travel-time' && { travelMin }),
  };
  return { code, edit, facts };
}

/** The latest date on which anything that was put begins. */
function lastStart(changes: RowChanges, today: LocalDate): LocalDate {
  const dates = [
    ...(changes.workingHours?.put ?? []).map(({ rule }) => rule.effectiveFrom),
    ...(changes.dateChanges?.put ?? []).map(({ date }) => date),
  ];
  return dates.reduce((latest, date) => (date > latest ? date : latest), today);
}

function* pairs(today: readonly Worked[], before: readonly Worked[]): Generator<[Worked, Worked]> {
  for (let i = 0; i < today.length; i++) {
    for (let j = i + 1; j < today.length; j++) yield [today[i], today[j]];
    for (const earlier of before) yield [earlier, today[i]];
  }
}

function travel(store: ClinicStore, a: Worked, b: Worked): number {
  const [first, second] = a.start <= b.start ? [a, b] : [b, a];
  if (first.siteId === second.siteId) return 0;
  const row = store.plan.travel.find((way) => way.fromSiteId === first.siteId && way.toSiteId === second.siteId);
  return row?.minutes ?? 0;
}

function meets(store: ClinicStore, a: Worked, b: Worked): 'overlap' | 'no-travel-time' | null {
  if (a.start < b.end && b.start < a.end) return 'overlap';
  const gap = Math.max(a.start, b.start) - Math.min(a.end, b.end);
  return gap < travel(store, a, b) ? 'no-travel-time' : null;
}
