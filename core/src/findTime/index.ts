export { withAccess } from './access.ts';
export { faultOfParts, type NeedsOfVisit, type PartsFault, partsFor, resizedParts, withNeeds } from './needs.ts';
export { type Budget, budgetOf, MAX_TRIED } from './budget.ts';
export { householdTimes, type HouseholdCriteria, MAX_MEMBERS } from './household.ts';
export { minimalRelaxations, RELAXATIONS, type Relaxation, type Relaxed } from './relax.ts';
export {
  type Answers,
  countsByDate,
  firstPerProvider,
  firstTimes,
  type Time,
  timesFor,
  type Together,
  type Where,
} from './times.ts';
export {
  type Habits,
  habitsOf,
  type KnownVisit,
  PROPOSAL_REASONS,
  type Proposal,
  type ProposalReason,
  proposeTimes,
} from './propose.ts';
export { linkedTimes, seriesTimes, type SeriesCriteria } from './together.ts';
