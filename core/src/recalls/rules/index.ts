import { RECALL_CODES, type RecallCode } from '../codes.ts';
import type { RecallRule } from '../rule.ts';
import { age } from './age.ts';
import { beingInvited } from './beingInvited.ts';
import { comingVisit } from './comingVisit.ts';
import { condition } from './condition.ts';
import { deceased } from './deceased.ts';
import { declined } from './declined.ts';
import { done } from './done.ts';
import { field } from './field.ts';
import { homeSite } from './homeSite.ts';
import { inactive } from './inactive.ts';
import { invitedLately } from './invitedLately.ts';
import { language } from './language.ts';
import { later } from './later.ts';
import { nothingToCountFrom } from './nothingToCountFrom.ts';
import { notDueYet } from './notDueYet.ts';
import { noWayToReach } from './noWayToReach.ts';
import { otherPlan } from './otherPlan.ts';
import { register } from './register.ts';
import { seenAlready } from './seenAlready.ts';
import { sex } from './sex.ts';

/** Every rule by its code. Leaving one out does not compile. */
export const RECALL_RULES = {
  deceased,
  inactive,
  age,
  sex,
  language,
  'home-site': homeSite,
  condition,
  register,
  field,
  'nothing-to-count-from': nothingToCountFrom,
  'seen-already': seenAlready,
  done,
  'not-due-yet': notDueYet,
  declined,
  later,
  'coming-visit': comingVisit,
  'being-invited': beingInvited,
  'invited-lately': invitedLately,
  'no-way-to-reach': noWayToReach,
  'other-plan': otherPlan,
} as const satisfies Record<RecallCode, RecallRule>;

/** In the order in which they decide. */
export const RULES_IN_ORDER: readonly RecallRule[] = RECALL_CODES.map((code) => RECALL_RULES[code]);
