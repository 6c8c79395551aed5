export { binds, NOTHING_WAIVED, type Waived } from './chain.ts';
export { ClinicIndex } from './clinicIndex.ts';
export { ClinicStore } from './clinicStore.ts';
export { CODES, type Code, type Facts } from './codes.ts';
export {
  askedType,
  type Channel,
  dayOfSeat,
  type Frame,
  frameOf,
  needsProvider,
  type Seat,
  type SearchCriteria,
} from './frame.ts';
export type { InvitationLimits, LimitHours } from './limits.ts';
export { type PayerRule, type PayerTerms, payerTerms } from './payerTerms.ts';
export { needsApproval, type PolicyLevel, type SettledPolicy, settlePolicy } from './policy.ts';
export { capBucket } from './capBucket.ts';
export { providerMinutes } from './siteDay.ts';
export * from './search.ts';
export * from './snapshot.ts';
export type { OpenDay } from './openDay.ts';
export { type SeatStarts, SiteSweep } from './sweep.ts';
export { type Explanation, explainCell, judgeCell, type RuleAnswer, whyNot } from './whyNot.ts';
export { chooseSeats } from './chooseSeats.ts';
export { noticeDeadline } from './rules/tooSoon.ts';
