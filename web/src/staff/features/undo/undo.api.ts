import { listActs, undo } from '@zaguan/contracts/undo';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const undoApi = api.injectEndpoints({
  endpoints: (build) => ({
    // Each look asks anew: whatever was done meanwhile may be taken back too.
    acts: queryOf(build, listActs, ['Acts']),
    undo: mutationOf(build, undo, [
      'Day',
      'Hours',
      'Openings',
      'Messages',
      'IdentityReview',
      'Today',
      'WorkCount',
      'Views',
      'Bench',
      'Acts',
      'Setup',
      'Clinic',
      'Patient',
    ]),
  }),
});
