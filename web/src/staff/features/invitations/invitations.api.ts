import {
  invitationsOfPatient,
  planFunnel,
  planInvited,
  previewInvitations,
  sendInvitations,
  templateFinds,
  withdrawInvitation,
} from '@zaguan/contracts/invitations';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const invitationsApi = api.injectEndpoints({
  endpoints: (build) => ({
    // Looked for anew when the page is opened or the template changes: with every booking it would keep threads busy.
    templateFinds: queryOf(build, templateFinds, ['Setup', 'Hours']),
    previewInvitations: queryOf(build, previewInvitations, ['Recalls', 'Setup']),
    sendInvitations: mutationOf(build, sendInvitations, ['Recalls']),
    withdrawInvitation: mutationOf(build, withdrawInvitation, ['Recalls']),
    invitationsOfPatient: queryOf(build, invitationsOfPatient, ['Recalls']),
    planFunnel: queryOf(build, planFunnel, ['Recalls']),
    planInvited: queryOf(build, planInvited, ['Recalls']),
  }),
});
