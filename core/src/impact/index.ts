export { invitationsEmptied, type OpenInvitations } from './invitations.ts';
export { noticeShifts } from './notice.ts';
export { type Alternative, type AlternativesInput, alternatives, type Placement, placeAll } from './alternatives.ts';
export { type GainAndLoss, type Impact, type ImpactInput, impactOf, type TypeImpact } from './impact.ts';
export { type PlanTouches, planTouches, setupImpact, type SetupImpactInput } from './setup.ts';
export { BOOKED_VISIT_CODES, checkBookedVisit, type VisitToMove, criteriaOf } from './visitToMove.ts';
