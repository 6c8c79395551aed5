import { undo } from '@zaguan/contracts/undo';
import { mutationOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const undoApi = api.injectEndpoints({
  endpoints: (build) => ({
    undo: mutationOf(build, undo, [
      'Day',
      'Hours',
      'Openings',
      'Messages',
      'IdentityReview',
      'Today',
      'WorkCount',
      'Setup',
      'Clinic',
      'Patient',
    ]),
  }),
});
