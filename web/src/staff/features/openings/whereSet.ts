import type { Code } from '@zaguan/core/openings';

export interface RuleSubject {
  readonly siteId: string;
  readonly resourceId: string;
  readonly visitTypeId: string;
  /** Date at the site. */
  readonly date: string;
}

const hours = ({ date, resourceId, siteId }: RuleSubject) =>
  `/availability?week=${mondayOf(date)}&lane=${siteId}:${resourceId}`;
const type =
  (field: 'policies' | 'providerIds' | 'beforeMin' | 'caps' | 'spacing' | 'parts') =>
  ({ visitTypeId }: RuleSubject) =>
    `/setup/visit-type?open=${visitTypeId}&field=${field}`;
const policy = type('policies');
const site =
  (field: 'closures' | 'hours') =>
  ({ siteId }: RuleSubject) =>
    `/setup/site?open=${siteId}&field=${field}`;
const person =
  (field: 'bookableOnline' | 'acceptsNew') =>
  ({ resourceId }: RuleSubject) =>
    `/setup/person?open=${resourceId}&field=${field}`;
const daybook = ({ date }: RuleSubject) => `/daybook/${date}`;
const payers = () => '/setup/payer';

/** Where each rule's value is set; `null` where nothing is set (the clock). A new rule without a place does not compile. */
const PLACES = {
  past: null,
  'not-performed': type('providerIds'),
  'site-closed': site('closures'),
  'outside-site-hours': site('hours'),
  'not-offered': policy,
  'kind-not-offered': policy,
  'not-bookable-online': person('bookableOnline'),
  'no-new-patients': person('acceptsNew'),
  'payer-not-accepted': payers,
  'referral-needed': payers,
  'authorization-needed': payers,
  'too-soon': policy,
  'too-far': policy,
  'off-grid': policy,
  'not-before': null,
  'invitation-type': null,
  'invitation-site': null,
  'invitation-provider': null,
  'invitation-dates': null,
  'invitation-hours': null,
  'no-hours': hours,
  'changed-that-date': hours,
  'time-off': hours,
  'kept-free': hours,
  'type-not-accepted': hours,
  'kind-not-accepted': hours,
  'invited-only': hours,
  'desk-only': hours,
  busy: daybook,
  'gap-too-short': type('beforeMin'),
  'cap-reached': type('caps'),
  'nobody-present': hours,
  'patient-elsewhere': daybook,
  spacing: type('spacing'),
  'never-together': type('parts'),
} as const satisfies Record<Code, ((asked: RuleSubject) => string) | null>;

/** The page, and its field, in which a rule's value is set. */
export function whereSet(code: Code, asked: RuleSubject): string | null {
  return PLACES[code]?.(asked) ?? null;
}

function mondayOf(date: string): string {
  const at = new Date(`${date}T12:00:00Z`);
  return new Date(at.getTime() - ((at.getUTCDay() + 6) % 7) * 86_400_000).toISOString().slice(0, 10);
}
