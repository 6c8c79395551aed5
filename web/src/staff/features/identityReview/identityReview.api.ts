import * as identityReview from '@zaguan/contracts/identityReview';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const identityReviewApi = api.injectEndpoints({
  endpoints: (build) => ({
    waiting: queryOf(build, identityReview.listIdentityReview, ['IdentityReview', 'Day']),
    link: mutationOf(build, identityReview.linkPerson, ['IdentityReview', 'Day']),
    create: mutationOf(build, identityReview.createPerson, ['IdentityReview', 'Day']),
    discard: mutationOf(build, identityReview.discardBooking, ['IdentityReview', 'Day', 'Openings']),
    discardMany: mutationOf(build, identityReview.discardMany, ['IdentityReview', 'Day', 'Openings', 'Today']),
    approvals: queryOf(build, identityReview.listApprovals, ['IdentityReview', 'Day']),
    approve: mutationOf(build, identityReview.approveRequest, ['IdentityReview', 'Day', 'Today']),
    decline: mutationOf(build, identityReview.declineRequest, ['IdentityReview', 'Day', 'Openings', 'Today']),
  }),
});
