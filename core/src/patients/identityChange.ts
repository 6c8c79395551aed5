import { compareIdentities } from '../matching/index.ts';
import type { LocalDate } from '../time/index.ts';

/** What says who a record is about. */
export interface IdentityFields {
  readonly givenName: string;
  readonly familyName: string;
  readonly birthDate: LocalDate;
}

/** Why a name or birth date is written anew: it was wrong, or the person has another name now. */
export const IDENTITY_REASONS = ['mistake', 'new-name'] as const;
export type IdentityReason = (typeof IDENTITY_REASONS)[number];

/**
 * `none`: nothing of it changed. `ask`: whoever changes it says why. `someone-else`: the record would become another
 * person's, which no reason allows; they have a record of their own, or get one.
 */
export type IdentityChange = 'none' | 'ask' | 'someone-else';

/**
 * What a change of name or birth date comes to. Another birth date that is no slip of the old one, and another name with
 * it, is another person (a sibling, a parent of the same given name): policy of ours, after the vetoes of matching.
 */
export function judgeIdentityChange(before: IdentityFields, after: IdentityFields): IdentityChange {
  const same =
    before.givenName === after.givenName &&
    before.familyName === after.familyName &&
    before.birthDate === after.birthDate;
  if (same) return 'none';
  const fields = compareIdentities({ ...before, contacts: [] }, { ...after, contacts: [] });
  const isOtherName = fields['given-name'] === 'differs' || fields['family-name'] === 'differs';
  return fields['birth-date'] === 'differs' && isOtherName ? 'someone-else' : 'ask';
}

/** Whether the reason fits the change: a birth date never becomes another one, it was only written down wrongly. */
export function reasonFits(reason: IdentityReason, before: IdentityFields, after: IdentityFields): boolean {
  return reason === 'mistake' || before.birthDate === after.birthDate;
}
