export { withAccess } from './access.ts';
export { type NeedsOfVisit, withNeeds } from './needs.ts';
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
export { linkedTimes, seriesTimes, type SeriesCriteria } from './together.ts';
