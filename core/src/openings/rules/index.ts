import type { Code } from '../codes.ts';
import { CODES } from '../codes.ts';
import type { CriteriaRule, JointRule, MemberRule, Rule, StandingRule, StartRule } from '../rule.ts';
import { authorizationNeeded } from './authorizationNeeded.ts';
import { busy } from './busy.ts';
import { capReached } from './capReached.ts';
import { changedThatDate } from './changedThatDate.ts';
import { deskOnly } from './deskOnly.ts';
import { gapTooShort } from './gapTooShort.ts';
import { invitationDates } from './invitationDates.ts';
import { invitationHours } from './invitationHours.ts';
import { invitationProvider } from './invitationProvider.ts';
import { invitationSite } from './invitationSite.ts';
import { invitationType } from './invitationType.ts';
import { invitedOnly } from './invitedOnly.ts';
import { keptFree } from './keptFree.ts';
import { kindNotAccepted } from './kindNotAccepted.ts';
import { kindNotOffered } from './kindNotOffered.ts';
import { neverTogether } from './neverTogether.ts';
import { nobodyPresent } from './nobodyPresent.ts';
import { noNewPatients } from './noNewPatients.ts';
import { noHours } from './noHours.ts';
import { notBefore } from './notBefore.ts';
import { notBookableOnline } from './notBookableOnline.ts';
import { notOffered } from './notOffered.ts';
import { notPerformed } from './notPerformed.ts';
import { offGrid } from './offGrid.ts';
import { outsideSiteHours } from './outsideSiteHours.ts';
import { past } from './past.ts';
import { patientElsewhere } from './patientElsewhere.ts';
import { payerNotAccepted } from './payerNotAccepted.ts';
import { referralNeeded } from './referralNeeded.ts';
import { siteClosed } from './siteClosed.ts';
import { spacing } from './spacing.ts';
import { timeOff } from './timeOff.ts';
import { tooFar } from './tooFar.ts';
import { tooSoon } from './tooSoon.ts';
import { typeNotAccepted } from './typeNotAccepted.ts';

/** Every rule by its code. Leaving one out does not compile. */
export const RULES = {
  past,
  'not-performed': notPerformed,
  'site-closed': siteClosed,
  'outside-site-hours': outsideSiteHours,
  'not-offered': notOffered,
  'kind-not-offered': kindNotOffered,
  'not-bookable-online': notBookableOnline,
  'no-new-patients': noNewPatients,
  'payer-not-accepted': payerNotAccepted,
  'referral-needed': referralNeeded,
  'authorization-needed': authorizationNeeded,
  'too-soon': tooSoon,
  'too-far': tooFar,
  'off-grid': offGrid,
  'not-before': notBefore,
  'invitation-type': invitationType,
  'invitation-site': invitationSite,
  'invitation-provider': invitationProvider,
  'invitation-dates': invitationDates,
  'invitation-hours': invitationHours,
  'no-hours': noHours,
  'changed-that-date': changedThatDate,
  'time-off': timeOff,
  'kept-free': keptFree,
  'type-not-accepted': typeNotAccepted,
  'kind-not-accepted': kindNotAccepted,
  'invited-only': invitedOnly,
  'desk-only': deskOnly,
  busy,
  'gap-too-short': gapTooShort,
  'cap-reached': capReached,
  'nobody-present': nobodyPresent,
  'patient-elsewhere': patientElsewhere,
  spacing,
  'never-together': neverTogether,
} as const satisfies Record<Code, Rule>;

const LIST: readonly Rule[] = CODES.map((code) => RULES[code]);

export const START_RULES = LIST.filter((rule): rule is StartRule => rule.scope === 'start');
export const MEMBER_RULES = LIST.filter((rule): rule is MemberRule => rule.scope === 'member');
export const STANDING_RULES = MEMBER_RULES.filter((rule): rule is StandingRule => rule.judges === 'cells');
export const CRITERIA_RULES = MEMBER_RULES.filter((rule): rule is CriteriaRule => rule.judges === 'starts');
export const JOINT_RULES = LIST.filter((rule): rule is JointRule => rule.scope === 'joint');
