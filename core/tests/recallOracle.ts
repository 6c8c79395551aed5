import { Temporal } from 'temporal-polyfill';
import type { Interval, RecallPerson, RecallPlan, RecallState } from '../src/recalls/index.ts';

/**
 * A second opinion on recalls, written as one would say it: Temporal's own dates (`PlainDate.add` constrains to the end of
 * the month), one long chain of conditions, no rule files.
 */
const plus = (date: string, { n, unit }: Interval) =>
  Temporal.PlainDate.from(date)
    .add({ [unit]: n })
    .toString();
const plusDays = (date: string, days: number) => plus(date, { n: days, unit: 'days' });

function yearsOld(birth: string, today: string): number {
  // Counted birthday by birthday; February 29 is kept on March 1 in other years.
  let years = 0;
  for (;;) {
    const next = Number(birth.slice(0, 4)) + years + 1;
    const leap = new Date(Date.UTC(next, 1, 29)).getUTCMonth() === 1;
    const birthday = birth.endsWith('-02-29') && !leap ? `${next}-03-01` : `${next}${birth.slice(4)}`;
    if (birthday > today) return years;
    years++;
  }
}

const typeNames = (plan: RecallPlan) => (plan.when.kind === 'never-seen' ? null : plan.when.typeIds);

function dueDate(plan: RecallPlan, person: RecallPerson, today: string): string | 'nothing' | 'seen' | 'done' {
  const { when } = plan;
  const types = typeNames(plan);
  const done = [
    ...person.completed.filter(({ typeId }) => !types || types.includes(typeId)).map(({ date }) => date),
    ...person.choices
      .filter(({ planId, kind, date }) => planId === plan.id && kind === 'done-elsewhere' && date)
      .map(({ date }) => date ?? ''),
  ]
    .filter((date) => date <= today)
    .sort();
  const last = done[done.length - 1];
  if (when.kind === 'after-visit') return last ? plus(last, when.every) : 'nothing';
  if (when.kind === 'never-seen')
    return person.completed.some(({ date }) => date <= today) ? 'seen' : plus(person.registeredOn, when.after);
  if (when.kind === 'build-up') {
    if (!last) return 'nothing';
    // The intervals of the whole course, one for each visit, laid out.
    const laid = when.steps.flatMap(({ visits, every }) => Array.from({ length: visits }, () => every));
    let inCourse = 1;
    for (let i = 1; i < done.length; i++) {
      const over = when.restartAfter && done[i] > plus(done[i - 1], when.restartAfter);
      inCourse = over ? 1 : inCourse + 1;
    }
    return plus(last, laid[inCourse] ?? when.afterwards);
  }
  if (when.kind === 'season') {
    // Day by day from today on: the first day of a season that has not been done.
    let day = today;
    for (;;) {
      const md = day.slice(5);
      const wraps = when.until < when.from;
      const inside = wraps ? md >= when.from || md <= when.until : md >= when.from && md <= when.until;
      if (inside) {
        const year = Number(day.slice(0, 4)) - (wraps && md <= when.until ? 1 : 0);
        const from = `${year}-${when.from}`;
        if (!done.some((date) => date >= from)) return from;
      }
      day = plusDays(day, 1);
    }
  }
  const membership = person.registers.find(
    ({ registerId, from, until }) => registerId === when.registerId && from <= today && (!until || until >= today),
  );
  if (!membership) return 'nothing';
  const since = done.filter((date) => date >= membership.from);
  if (!since.length) return plus(membership.from, when.after);
  return when.every ? plus(since[since.length - 1], when.every) : 'done';
}

/** What somebody is to a plan, and their due date where they have one. */
export function secondOpinion(
  plan: RecallPlan,
  person: RecallPerson,
  today: string,
  hasThem: boolean,
): { state: RecallState; dueOn: string | null } {
  const due = dueDate(plan, person, today);
  const dueOn = due === 'nothing' || due === 'seen' || due === 'done' ? null : due;
  const say = (state: RecallState) => ({ state, dueOn: state === 'not-asked-for' ? null : dueOn });
  const { who } = plan;
  const years = yearsOld(person.birthDate, today);
  const isAsked =
    !person.hasDied &&
    !person.isInactive &&
    (who.ageFrom === null || years >= who.ageFrom) &&
    (who.ageTo === null || years <= who.ageTo) &&
    (!who.sexes || who.sexes.includes(person.sex ?? 'unknown')) &&
    (!who.languages || who.languages.includes(person.language)) &&
    (!who.homeSiteIds || (person.homeSiteId && who.homeSiteIds.includes(person.homeSiteId))) &&
    (!who.codes || person.codes.some((code) => who.codes?.some((asked) => code.startsWith(asked)))) &&
    (!who.registerIds ||
      person.registers.some(
        ({ registerId, from, until }) =>
          who.registerIds?.includes(registerId) && from <= today && (!until || until >= today),
      )) &&
    who.fields.every(({ fieldId, values }) => values.some((value) => value === person.fields[fieldId]));
  if (!isAsked || due === 'nothing' || due === 'seen') return say('not-asked-for');
  if (due === 'done') return say('done');
  if (plusDays(due, -plan.aheadDays) > today) return say('not-due');
  const said = person.choices.filter(({ planId }) => planId === plan.id);
  if (said.some(({ kind }) => kind === 'declined')) return say('declined');
  if (said.some(({ kind, date }) => kind === 'later' && date && date > today)) return say('deferred');
  const counts = plan.comingTypeIds ?? typeNames(plan);
  if (person.coming.some(({ typeId, date }) => date >= today && (!counts || counts.includes(typeId))))
    return say('booked');
  if (person.live.some(({ planId, until }) => planId === plan.id && until >= today)) return say('invited');
  if (person.invitedOn.some((date) => date <= today && plusDays(date, plan.quietDays) > today)) return say('left-out');
  if (person.reach !== 'open' || hasThem) return say('left-out');
  return say('due');
}
