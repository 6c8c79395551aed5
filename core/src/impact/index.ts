export { noticeShifts } from './notice.ts';
export { type Alternative, type AlternativesWanted, alternatives, type Placement, placeAll } from './alternatives.ts';
export { type GainAndLoss, type Impact, type ImpactAsked, impactOf, type TypeImpact } from './impact.ts';
export { type PlanTouches, planTouches, setupImpact, type SetupAsked } from './setup.ts';
export { FOOTING, judgeVisit, type Unfit, wishOf } from './unfit.ts';
