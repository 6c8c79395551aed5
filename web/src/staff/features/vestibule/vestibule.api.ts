import * as vestibule from '@zaguan/contracts/vestibule';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const vestibuleApi = api.injectEndpoints({
  endpoints: (build) => ({
    waiting: queryOf(build, vestibule.listVestibule, ['Vestibule', 'Day']),
    link: mutationOf(build, vestibule.linkPerson, ['Vestibule', 'Day']),
    create: mutationOf(build, vestibule.createPerson, ['Vestibule', 'Day']),
    discard: mutationOf(build, vestibule.discardBooking, ['Vestibule', 'Day', 'Openings']),
    discardMany: mutationOf(build, vestibule.discardMany, ['Vestibule', 'Day', 'Openings', 'Today']),
    approvals: queryOf(build, vestibule.listApprovals, ['Vestibule', 'Day']),
    approve: mutationOf(build, vestibule.approveRequest, ['Vestibule', 'Day', 'Today']),
    decline: mutationOf(build, vestibule.declineRequest, ['Vestibule', 'Day', 'Openings', 'Today']),
  }),
});
