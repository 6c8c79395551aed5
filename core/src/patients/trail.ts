/** What an entry of a patient's trail may say about before and after; each has words on screen. */
export const TRAIL_FIELDS = [
  'status',
  'start',
  'site',
  'provider',
  'reason',
  'approval',
  'coverage',
  'until',
  'waived',
  'confirmed',
  'outcome',
  'assigned-to',
  'patient-status',
  'deceased-on',
  'given-name',
  'family-name',
  'preferred-name',
  'birth-date',
  'sex',
  'address',
  'language',
  'interpreter',
  'access',
  'extra-time',
  'companion',
  'home-site',
  'home-provider',
  'referral-source',
  'staff-notes',
  'alert',
  'conditions',
  'restricted',
  'reason-given',
  'opened-until',
  'household',
  'contact',
  'contact-event',
  'registered',
  'own-field',
] as const;
export type TrailField = (typeof TRAIL_FIELDS)[number];

export interface TrailChange {
  readonly field: TrailField;
  /** The clinic's own field that was changed. */
  readonly ownFieldId?: string;
  readonly before: string | number | boolean | null;
  readonly after: string | number | boolean | null;
}

/** Keys of what use cases write about a change, and what each is called. */
const NAMES: Readonly<Record<string, TrailField>> = {
  status: 'status',
  startsAt: 'start',
  siteId: 'site',
  providerId: 'provider',
  reason: 'reason',
  approval: 'approval',
  coverage: 'coverage',
  until: 'until',
  waived: 'waived',
  confirmed: 'confirmed',
  outcome: 'outcome',
  assignedTo: 'assigned-to',
  patientStatus: 'patient-status',
  deceasedOn: 'deceased-on',
  givenName: 'given-name',
  familyName: 'family-name',
  preferredName: 'preferred-name',
  birthDate: 'birth-date',
  sex: 'sex',
  street: 'address',
  city: 'address',
  region: 'address',
  postalCode: 'address',
  language: 'language',
  interpreter: 'interpreter',
  access: 'access',
  extraMin: 'extra-time',
  companion: 'companion',
  homeSiteId: 'home-site',
  homeProviderId: 'home-provider',
  referralSource: 'referral-source',
  staffNotes: 'staff-notes',
  alert: 'alert',
  conditions: 'conditions',
  restricted: 'restricted',
  reasonGiven: 'reason-given',
  openedUntil: 'opened-until',
  household: 'household',
  contact: 'contact',
  contactEvent: 'contact-event',
  registered: 'registered',
};

type Plain = TrailChange['before'];
const plain = (value: unknown): Plain => {
  if (Array.isArray(value) && value.every((each) => typeof each === 'string')) return value.join(', ') || null;
  return typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? value : null;
};

function differences(
  before: Readonly<Record<string, unknown>>,
  after: Readonly<Record<string, unknown>>,
): [string, Plain, Plain][] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .map((key): [string, Plain, Plain] => [key, plain(before[key]), plain(after[key])])
    .filter(([, was, is]) => was !== is);
}

const record = (value: unknown): Readonly<Record<string, unknown>> =>
  value && typeof value === 'object' ? (value as Record<string, unknown>) : {};

/**
 * What a use case's before and after come to, field by field; what is the same, and what people can't read, is left out.
 *
 * @param before as it was written into the audit, `null` for something new
 */
export function trailChanges(before: unknown, after: unknown): TrailChange[] {
  const [was, is] = [record(before), record(after)];
  return [
    ...differences(was, is).flatMap(([key, left, right]) =>
      NAMES[key] ? [{ field: NAMES[key], before: left, after: right }] : [],
    ),
    ...differences(record(was.fields), record(is.fields)).map(([id, left, right]) => ({
      field: 'own-field' as const,
      ownFieldId: id,
      before: left,
      after: right,
    })),
  ];
}
