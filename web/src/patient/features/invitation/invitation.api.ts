import * as invitation from '@zaguan/contracts/invitations';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const invitationApi = api.injectEndpoints({
  endpoints: (build) => ({
    lookAtInvitation: queryOf(build, invitation.lookAtInvitation, []),
    openInvitation: mutationOf(build, invitation.openInvitation, []),
    invitationDays: queryOf(build, invitation.invitationDays, []),
    invitationTimes: queryOf(build, invitation.invitationTimes, []),
    bookByInvitation: mutationOf(build, invitation.bookByInvitation, []),
    answerInvitation: mutationOf(build, invitation.answerInvitation, []),
  }),
});
