import * as identityReview from '@zaguan/contracts/identityReview';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const identityReviewApi = api.injectEndpoints({
  endpoints: (build) => ({
    waiting: queryOf(build, identityReview.listIdentityReview, ['IdentityReview', 'Day']),
    link: mutationOf(build, identityReview.linkPerson, ['IdentityReview', 'Day', 'WorkCount']),
    create: mutationOf(build, identityReview.createPerson, ['IdentityReview', 'Day', 'WorkCount']),
    discard: mutationOf(build, identityReview.discardBooking, ['IdentityReview', 'Day', 'Openings', 'WorkCount']),
    discardMany: mutationOf(build, identityReview.discardMany, [
      'IdentityReview',
      'Day',
      'Openings',
      'Today',
      'WorkCount',
    ]),
    approvals: queryOf(build, identityReview.listApprovals, ['IdentityReview', 'Day']),
    approve: mutationOf(build, identityReview.approveRequest, ['IdentityReview', 'Day', 'Today', 'WorkCount']),
    decline: mutationOf(build, identityReview.declineRequest, [
      'IdentityReview',
      'Day',
      'Openings',
      'Today',
      'WorkCount',
    ]),
  }),
});
