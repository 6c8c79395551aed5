export { type Alternative, type AlternativesWanted, alternatives, type Placement, placeAll } from './alternatives.ts';
export { type GainAndLoss, type Impact, type ImpactAsked, impactOf, type TypeImpact } from './impact.ts';
export { FOOTING, judgeVisit, type Unfit, wishOf } from './unfit.ts';
