/**
 * Every reason for which a start time is not offered. A code names its file (`too-soon` is `rules/tooSoon.ts`), its
 * words in the interface (`whyNot.code.too-soon`) and its row in the tests. Explanations name them in this order.
 */
export const CODES = [
  'past',
  'not-performed',
  'site-closed',
  'outside-site-hours',
  'not-offered',
  'kind-not-offered',
  'not-bookable-online',
  'no-new-patients',
  'payer-not-accepted',
  'referral-needed',
  'authorization-needed',
  'too-soon',
  'too-far',
  'off-grid',
  'not-before',
  'invitation-type',
  'invitation-site',
  'invitation-provider',
  'invitation-dates',
  'invitation-hours',
  'no-hours',
  'changed-that-date',
  'time-off',
  'kept-free',
  'type-not-accepted',
  'kind-not-accepted',
  'invited-only',
  'desk-only',
  'busy',
  'gap-too-short',
  'cap-reached',
  'nobody-present',
  'patient-elsewhere',
  'spacing',
  'never-together',
] as const;

export type Code = (typeof CODES)[number];

/** Values that decided, as plain JSON: ids, instants (epoch minutes), minutes, dates, counts. Never patient data. */
export type Facts = Readonly<Record<string, string | number | boolean | null | readonly string[]>>;
