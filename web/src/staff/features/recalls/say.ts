import type { RecallPlanDoc } from '@zaguan/contracts/recalls';
import type { Interval, RecallCode, RecallFacts, RecallState } from '@zaguan/core/recalls';
import { daysBetween, type LocalDate } from '@zaguan/core/time';
import type { TFunction } from 'i18next';
import { codeWords } from '../../../shared/i18n/codeWords.ts';
import { formatDate, shortDate } from '../../../shared/time/format.ts';
import type { NameOf } from '../setup/index.ts';

/** What people are to a plan as its pages show it: what waits for somebody first. */
export const STATES_SHOWN = [
  'due',
  'invited',
  'booked',
  'deferred',
  'declined',
  'left-out',
  'not-due',
  'done',
] as const satisfies readonly RecallState[];

/** "6 months". */
export const sayInterval = (t: TFunction, { n, unit }: Interval): string => t(`recalls.unit.${unit}`, { count: n });

const WEEKS_FROM = 21;
const MONTHS_FROM = 70;
const DAYS_A_MONTH = 30.44;

/** "week", "4 weeks": behind "every". */
const sayEach = (t: TFunction, { n, unit }: Interval): string => t(`recalls.each.${unit}`, { count: n });

/** How long a span is, as one says it: days, then weeks, then months. */
export function saySpan(t: TFunction, days: number): string {
  const n = Math.abs(days);
  if (n < WEEKS_FROM) return t('recalls.unit.days', { count: n });
  if (n < MONTHS_FROM) return t('recalls.unit.weeks', { count: Math.round(n / 7) });
  return t('recalls.unit.months', { count: Math.round(n / DAYS_A_MONTH) });
}

/** "14 months ago", "in 3 weeks", "today". */
export function sayWhen(t: TFunction, date: LocalDate, today: LocalDate): string {
  const days = daysBetween(today, date);
  if (days === 0) return t('recalls.today');
  return t(days < 0 ? 'recalls.ago' : 'recalls.ahead', { span: saySpan(t, days) });
}

/** A month and day of any year: "October 1". */
export const sayMonthDay = (monthDay: string): string =>
  new Intl.DateTimeFormat('en-US', { month: 'long', day: 'numeric', timeZone: 'UTC' }).format(
    new Date(`2026-${monthDay}T00:00:00Z`),
  );

/** A plan's time in one sentence: "6 months after the last Asthma review". */
export function sayPlan(t: TFunction, { when }: Pick<RecallPlanDoc, 'when'>, nameOf: NameOf): string {
  const types = 'typeIds' in when ? when.typeIds.map(nameOf).join(t('recalls.or')) || t('recalls.noTypes') : '';
  switch (when.kind) {
    case 'after-visit':
      return t('recalls.sentence.after-visit', { types, every: sayInterval(t, when.every) });
    case 'build-up':
      return t('recalls.sentence.build-up', {
        types,
        steps: when.steps
          .map(({ visits, every }) => t('recalls.sentence.step', { count: visits, every: sayEach(t, every) }))
          .join(', '),
        afterwards: sayEach(t, when.afterwards),
      });
    case 'season':
      return t('recalls.sentence.season', { types, from: sayMonthDay(when.from), until: sayMonthDay(when.until) });
    case 'never-seen':
      return t('recalls.sentence.never-seen', { after: sayInterval(t, when.after) });
    case 'on-register':
      return onRegister(t, when, { types, register: nameOf(when.registerId) });
  }
}

function onRegister(
  t: TFunction,
  { after, every }: Extract<RecallPlanDoc['when'], { kind: 'on-register' }>,
  names: { types: string; register: string },
): string {
  const facts = { ...names, after: sayInterval(t, after) };
  return every === null
    ? t('recalls.sentence.on-register-once', facts)
    : t('recalls.sentence.on-register-again', { ...facts, every: sayEach(t, every) });
}

/** Facts whose dates are written out. */
const DATES = new Set(['dueOn', 'lastOn', 'listedFrom', 'until', 'on', 'visitOn']);

function sayAges(t: TFunction, from: number | null, to: number | null): string {
  if (from === null) return t('recalls.ages.to', { to: to ?? '' });
  return to === null ? t('recalls.ages.from', { from }) : t('recalls.ages.between', { from, to });
}

/** What one rule found, in a sentence. */
export function sayRule(
  t: TFunction,
  { code, passed, facts }: { code: RecallCode; passed: boolean; facts: RecallFacts },
  nameOf: NameOf,
): string {
  if (passed) return t(`recalls.passes.${code}`);
  const named = Object.fromEntries(
    Object.entries(facts).map(([key, value]) => [
      key,
      DATES.has(key) && typeof value === 'string'
        ? formatDate(value, 'en', true)
        : key.endsWith('Id')
          ? nameOf(String(value))
          : value,
    ]),
  );
  const age = code === 'age' ? sayAges(t, facts.ageFrom as number | null, facts.ageTo as number | null) : '';
  const said = code === 'no-way-to-reach' && facts.optedOut ? 'opted-out' : code;
  return codeWords(t, 'recalls.code', said, { ...named, age });
}

interface Listed {
  readonly by: RecallCode | null;
  readonly facts: RecallFacts;
  readonly lastOn: LocalDate | null;
  readonly lastTypeId: string | null;
  readonly dueOn: LocalDate | null;
  readonly count: number | null;
}

/** Why somebody stands where they stand, in a line: "last visit 14 months ago; due 2 months ago". */
export function sayListed(t: TFunction, listed: Listed, today: LocalDate, nameOf: NameOf): string {
  const { by, facts, lastOn, lastTypeId, dueOn, count } = listed;
  const parts = [
    lastOn === null
      ? null
      : t(lastTypeId === null ? 'recalls.line.elsewhere' : 'recalls.line.last', {
          type: nameOf(lastTypeId),
          when: sayWhen(t, lastOn, today),
          date: shortDate(lastOn, 'en', today),
        }),
    count === null ? null : t('recalls.line.count', { count }),
    dueOn === null
      ? null
      : t(dueOn < today ? 'recalls.line.wasDue' : 'recalls.line.due', {
          when: sayWhen(t, dueOn, today),
          date: shortDate(dueOn, 'en', today),
        }),
    by === null || by === 'not-due-yet' ? null : sayRule(t, { code: by, passed: false, facts }, nameOf),
  ];
  return parts.filter((part) => part !== null).join(' · ');
}
