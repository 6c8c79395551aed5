import { addDays, type LocalDate } from '../time/index.ts';
import { addInterval, firstAfter, type Interval } from './interval.ts';
import type { MonthDay, RecallPerson, RecallPlan, When } from './plan.ts';

/** What a due date comes to. */
export type Due =
  | {
      readonly kind: 'on';
      readonly dueOn: LocalDate;
      /** The last visit that was counted from; `null`: counted from a register, a season or the record itself. */
      readonly lastOn: LocalDate | null;
      /** Its visit type; `null`: it was done elsewhere. */
      readonly lastTypeId: string | null;
      /** Of a course: how many visits of it have been. */
      readonly count: number | null;
      readonly changesOn: LocalDate | null;
    }
  /** There is nothing that it could be counted from. */
  | { readonly kind: 'nothing'; readonly changesOn: LocalDate | null }
  /** Asked of people who have never been here, and this one has. */
  | { readonly kind: 'seen'; readonly lastOn: LocalDate; readonly lastTypeId: string; readonly changesOn: null }
  /** Asked once, and done. */
  | {
      readonly kind: 'done';
      readonly lastOn: LocalDate;
      readonly lastTypeId: string | null;
      readonly changesOn: LocalDate | null;
    };

/** The visit types that a plan goes by; `null`: none are named. */
export function typesOf(when: When): readonly string[] | null {
  return when.kind === 'never-seen' ? null : when.typeIds;
}

/** A coming visit of these types counts for a plan; `null`: of any. */
export function comingTypesOf({
  comingTypeIds,
  when,
}: Pick<RecallPlan, 'comingTypeIds' | 'when'>): readonly string[] | null {
  return comingTypeIds ?? typesOf(when);
}

/**
 * When somebody is due by a plan.
 *
 * @param today a visit with a later date has not been
 */
export function dueOf({ id, when }: RecallPlan, person: RecallPerson, today: LocalDate): Due {
  const { done, later } = doneBy(id, when, person, today);
  const last = done.at(-1) ?? null;
  switch (when.kind) {
    case 'after-visit':
      return last === null
        ? { kind: 'nothing', changesOn: later }
        : on(addInterval(last.date, when.every), { last, changesOn: later });
    case 'build-up': {
      if (last === null) return { kind: 'nothing', changesOn: later };
      const count = visitsOfCourse(
        done.map(({ date }) => date),
        when.restartAfter,
      );
      return on(addInterval(last.date, intervalAfter(when, count)), { last, count, changesOn: later });
    }
    case 'season':
      return inSeason(when, last, today, later);
    case 'never-seen': {
      const seen = person.completed.find(({ date }) => date <= today);
      const next = firstAfter(
        today,
        person.completed.map(({ date }) => date),
      );
      return seen
        ? { kind: 'seen', lastOn: seen.date, lastTypeId: seen.typeId, changesOn: null }
        : on(addInterval(person.registeredOn, when.after), { changesOn: next });
    }
    case 'on-register':
      return onRegister(when, person, done, today, later);
  }
}

/** Something that a plan asks for, done here or, without a type, elsewhere. */
interface Done {
  readonly date: LocalDate;
  readonly typeId: string | null;
}

const on = (
  dueOn: LocalDate,
  { last = null, count = null, changesOn }: { last?: Done | null; count?: number | null; changesOn: LocalDate | null },
): Due => ({ kind: 'on', dueOn, lastOn: last?.date ?? null, lastTypeId: last?.typeId ?? null, count, changesOn });

/** What the plan asks for as far as it was done, in order; and the next date of it that is still to come. */
function doneBy(
  planId: string,
  when: When,
  { completed, choices }: RecallPerson,
  today: LocalDate,
): { done: Done[]; later: LocalDate | null } {
  const types = typesOf(when);
  const all: Done[] = completed.filter(({ typeId }) => types === null || types.includes(typeId));
  for (const choice of choices)
    if (choice.planId === planId && choice.kind === 'done-elsewhere' && choice.date !== null)
      all.push({ date: choice.date, typeId: null });
  all.sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
  return {
    done: all.filter(({ date }) => date <= today),
    later: firstAfter(
      today,
      all.map(({ date }) => date),
    ),
  };
}

/** How many visits of a course have been, since it was last started over. */
function visitsOfCourse(dates: readonly LocalDate[], restartAfter: Interval | null): number {
  let count = 0;
  dates.forEach((date, i) => {
    const isNew = i > 0 && restartAfter !== null && date > addInterval(dates[i - 1], restartAfter);
    count = isNew ? 1 : count + 1;
  });
  return count;
}

/** The interval to the next visit after so many: of the first step that they do not end yet. */
export function intervalAfter({ steps, afterwards }: Extract<When, { kind: 'build-up' }>, count: number): Interval {
  let ends = 0;
  for (const { visits, every } of steps) {
    ends += visits;
    if (count < ends) return every;
  }
  return afterwards;
}

/** The season that a date lies in, or the next one to come: first and last day. */
export function seasonAround(
  { from, until }: { readonly from: MonthDay; readonly until: MonthDay },
  date: LocalDate,
): { from: LocalDate; until: LocalDate } {
  const year = Number(date.slice(0, 4));
  const wraps = until < from;
  for (const start of [year - 1, year, year + 1]) {
    const season = { from: `${pad(start)}-${from}`, until: `${pad(wraps ? start + 1 : start)}-${until}` };
    if (date <= season.until) return season;
  }
  throw new RangeError('A season has no end.');
}

const pad = (year: number) => String(year).padStart(4, '0');

function inSeason(
  when: Extract<When, { kind: 'season' }>,
  last: Done | null,
  today: LocalDate,
  later: LocalDate | null,
): Due {
  const season = seasonAround(when, today);
  const changesOn = firstAfter(today, [later, addDays(season.until, 1)]);
  const next = seasonAround(when, addDays(season.until, 1));
  // Done in this season: the next one is asked for.
  const dueOn = last !== null && last.date >= season.from ? next.from : season.from;
  return on(dueOn, { last, changesOn });
}

function onRegister(
  { registerId, after, every }: Extract<When, { kind: 'on-register' }>,
  { registers }: RecallPerson,
  done: readonly Done[],
  today: LocalDate,
  later: LocalDate | null,
): Due {
  const own = registers.filter((each) => each.registerId === registerId);
  const now = own.find(({ from, until }) => from <= today && (until === null || until >= today));
  const changes = firstAfter(today, [
    later,
    ...own.flatMap(({ from, until }) => [from, until === null ? null : addDays(until, 1)]),
  ]);
  if (!now) return { kind: 'nothing', changesOn: changes };
  const last = done.findLast(({ date }) => date >= now.from) ?? null;
  if (last === null) return on(addInterval(now.from, after), { changesOn: changes });
  return every === null
    ? { kind: 'done', lastOn: last.date, lastTypeId: last.typeId, changesOn: changes }
    : on(addInterval(last.date, every), { last, changesOn: changes });
}
