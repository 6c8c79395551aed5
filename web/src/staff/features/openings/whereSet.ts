import type { Code } from '@zaguan/core/openings';

export interface AskedOf {
  readonly siteId: string;
  readonly resourceId: string;
  readonly visitTypeId: string;
  /** Date at the site. */
  readonly date: string;
}

const hours = ({ date, resourceId, siteId }: AskedOf) =>
  `/availability?week=${mondayOf(date)}&lane=${siteId}:${resourceId}`;
const policy = ({ visitTypeId }: AskedOf) => `/setup/visit-type?open=${visitTypeId}&field=policies`;
const type = ({ visitTypeId }: AskedOf) => `/setup/visit-type?open=${visitTypeId}`;
const site = ({ siteId }: AskedOf) => `/setup/site?open=${siteId}`;
const person = ({ resourceId }: AskedOf) => `/setup/person?open=${resourceId}`;
const daybook = ({ date }: AskedOf) => `/daybook/${date}`;
const payers = () => '/setup/payer';

/** Where each rule's value is set; `null` where nothing is set (the clock). A new rule without a place does not compile. */
const PLACES = {
  past: null,
  'not-performed': type,
  'site-closed': site,
  'outside-site-hours': site,
  'not-offered': policy,
  'kind-not-offered': policy,
  'not-bookable-online': person,
  'no-new-patients': person,
  'payer-not-accepted': payers,
  'referral-needed': payers,
  'authorization-needed': payers,
  'too-soon': policy,
  'too-far': policy,
  'off-grid': policy,
  'not-before': null,
  'no-hours': hours,
  'changed-that-date': hours,
  'time-off': hours,
  'kept-free': hours,
  'type-not-accepted': hours,
  'kind-not-accepted': hours,
  'invited-only': hours,
  'desk-only': hours,
  busy: daybook,
  'gap-too-short': type,
  'cap-reached': policy,
  'nobody-present': hours,
  'patient-elsewhere': daybook,
  spacing: type,
  'never-together': type,
} as const satisfies Record<Code, ((asked: AskedOf) => string) | null>;

/** The page on which a rule's value is set. */
export function whereSet(code: Code, asked: AskedOf): string | null {
  return PLACES[code]?.(asked) ?? null;
}

function mondayOf(date: string): string {
  const at = new Date(`${date}T12:00:00Z`);
  return new Date(at.getTime() - ((at.getUTCDay() + 6) % 7) * 86_400_000).toISOString().slice(0, 10);
}
