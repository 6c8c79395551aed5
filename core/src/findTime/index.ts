export { withAccess } from './access.ts';
export { MOST_TRIED } from './chain.ts';
export { leastRelaxations, RELAXATIONS, type Relaxation, type Relaxed } from './relax.ts';
export { countsByDate, firstPerProvider, firstTimes, type Time, timesFor, type Where } from './times.ts';
export {
  type Answers,
  householdTimes,
  type HouseholdWanted,
  linkedTimes,
  MOST_MEMBERS,
  seriesTimes,
  type SeriesWanted,
  type Together,
} from './together.ts';
