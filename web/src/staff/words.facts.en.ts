import type { Code } from '@zaguan/core/openings';
import type { WireRuleAnswer } from '@zaguan/contracts/openings';
import { formatDate, timeOf, wallTime } from '../shared/time/format.ts';

type Facts = WireRuleAnswer['facts'][number];
type Write = (facts: Facts, help: { name: (id: unknown) => string; time: (minute: unknown) => string }) => string;

const LEVELS: Record<string, string> = {
  default: 'no policy is set',
  type: 'set for the visit type',
  'type+site': 'set for this visit type at this site',
  'type+provider': 'set for this visit type with this provider',
  'type+site+provider': 'set for this visit type, site and provider',
};
const level = (facts: Facts) => LEVELS[String(facts.level)] ?? '';
const KIND: Record<string, string> = { new: 'new', established: 'established' };
const minutes = (value: unknown) =>
  Number(value) % 60 === 0 && Number(value) > 0 ? `${Number(value) / 60} h` : `${Number(value)} min`;

const listed = (ids: unknown, name: (id: unknown) => string) => (ids as string[]).map(name).join(' or ') || 'nothing';
/** "540-600" as "9:00 am to 10:00 am". */
const spanOf = (span: string) =>
  span
    .split('-')
    .map((minute) => wallTime(Number(minute)))
    .join(' to ');

/** The values that decided, in words; one writer for each code, so that a new rule without words does not compile. */
const WRITERS = {
  past: () => '',
  'not-performed': (f, { name }) =>
    f.missing === 'pool'
      ? `This site has no “${f.poolKind}”.`
      : f.missing === 'site'
        ? `${name(f.siteId)} does not offer it.`
        : `${name(f.providerId)} does not do it.`,
  'site-closed': (f) => `Closed from ${formatDate(String(f.startDate))} to ${formatDate(String(f.endDate))}.`,
  'outside-site-hours': (f) =>
    f.shutAllDay
      ? 'Not open that day.'
      : `Open ${wallTime(Number(f.opensMinute))} to ${wallTime(Number(f.closesMinute))}.`,
  'not-offered': (f) => `${level(f)}.`,
  'kind-not-offered': (f) =>
    `Offered to ${(f.offeredTo as string[]).map((kind) => KIND[kind]).join(' and ')} patients; ${level(f)}.`,
  'not-bookable-online': (f, { name }) => `${name(f.providerId ?? f.siteId)} is left out.`,
  'no-new-patients': (f, { name }) => `${name(f.providerId)} takes no new patients online.`,
  'payer-not-accepted': (f, { name }) =>
    `${name(f.payerId)} is not accepted at ${name(f.siteId)}${f.providerId ? ` with ${name(f.providerId)}` : ''}.`,
  'referral-needed': (f, { name }) => `${name(f.payerId)} asks for a referral first.`,
  'authorization-needed': (f, { name }) => `${name(f.payerId)} asks for an authorization first.`,
  'too-soon': (f, { time }) =>
    f.by === 'minutes'
      ? `Needs ${minutes(f.leadMin)} notice; ${level(f)}.`
      : `Must be booked by ${wallTime(Number(f.byMinute))}, ${f.workingDays} working day before${f.deadline === null ? '' : ` (${time(f.deadline)} at the site)`}; ${level(f)}.`,
  'too-far': (f) => `Can be booked to ${formatDate(String(f.lastDate))} (${f.windowDays} days); ${level(f)}.`,
  'off-grid': (f) => `Starts lie on every ${f.gridMin} minutes; ${level(f)}.`,
  'not-before': (f) => `From ${formatDate(String(f.firstDate))}.`,
  'invitation-type': (f, { name }) => `It is for ${listed(f.allowed, name)}.`,
  'invitation-site': (f, { name }) => `It is for ${listed(f.allowed, name)}.`,
  'invitation-provider': (f, { name }) => `It is for ${listed(f.allowed, name)}.`,
  'invitation-dates': (f) =>
    [
      f.fromDate && `From ${formatDate(String(f.fromDate))}.`,
      f.untilDate && `Until ${formatDate(String(f.untilDate))}.`,
    ]
      .filter(Boolean)
      .join(' '),
  'invitation-hours': (f) =>
    (f.allowed as string[]).length
      ? `It is for ${(f.allowed as string[]).map(spanOf).join(' and ')} that day.`
      : 'It is not for that day.',
  'no-hours': (f, { name }) => `${name(f.resourceId)} works ${hoursList(f) || 'not at all here that day'}.`,
  'changed-that-date': (f, { name }) => `${name(f.resourceId)}: changed for ${formatDate(String(f.date))}.`,
  'time-off': (f, { name }) =>
    `${name(f.resourceId)}${f.startDate ? ` is away ${formatDate(String(f.startDate))} to ${formatDate(String(f.endDate))}` : ' is away'}.`,
  'kept-free': (f, { name }) => `${name(f.resourceId)} keeps this stretch free.`,
  'type-not-accepted': (f, { name }) =>
    `${name(f.resourceId)}’s hours take ${(f.accepted as string[]).map((id) => name(id)).join(', ') || 'others'} only.`,
  'kind-not-accepted': (f, { name }) =>
    `${name(f.resourceId)}’s hours take ${(f.accepted as string[]).map((kind) => KIND[kind]).join(', ')} patients only.`,
  'invited-only': (f, { name }) => `${name(f.resourceId)}’s hours are kept for invited patients.`,
  'desk-only': (f, { name }) =>
    f.by === 'brush'
      ? `Set to desk only for ${name(f.resourceId)}.`
      : `${name(f.resourceId)}’s hours are not shown online.`,
  busy: (f, { name, time }) => `${name(f.resourceId)} is taken${f.until === null ? '' : ` until ${time(f.until)}`}.`,
  'gap-too-short': (f, { time }) =>
    `Needs ${minutes(f.gapMin)} between visits, has ${minutes(f.haveMin)}${f.side === 'after' ? `; free from ${time(f.freeFrom)}` : `; the next starts at ${time(f.nextStart)}`}.`,
  'cap-reached': (f) => `${f.booked} of ${f.max} are booked.`,
  'nobody-present': (f) => `“${f.capability}” is needed at the site in part ${Number(f.part) + 1}.`,
  'patient-elsewhere': (_f, { time }) => `Until ${time(_f.until)}.`,
  spacing: (f) =>
    f.minDays
      ? `At least ${f.minDays} days apart; these are ${f.apart}.`
      : `At most ${f.maxDays} days apart; these are ${f.apart}.`,
  'never-together': () => '',
} satisfies Record<Code, Write>;

function hoursList(facts: Facts): string {
  return ((facts.hoursThatDay as string[] | undefined) ?? [])
    .map((span) =>
      span
        .split('-')
        .map((minute) => wallTime(Number(minute)))
        .join(' to '),
    )
    .join(' and ');
}

/** One line for each thing that failed; the same line is said once. */
export function factLines(answer: WireRuleAnswer, names: Readonly<Record<string, string>>, timeZone: string): string[] {
  const help = {
    name: (id: unknown) => names[String(id)] ?? 'It',
    time: (minute: unknown) => timeOf(new Date(Number(minute) * 60_000).toISOString(), timeZone),
  };
  return [...new Set(answer.facts.map((facts) => WRITERS[answer.code](facts, help)))]
    .filter(Boolean)
    .map((line) => line.charAt(0).toUpperCase() + line.slice(1));
}
