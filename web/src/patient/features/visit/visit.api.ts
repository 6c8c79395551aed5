import * as intake from '@zaguan/contracts/intake';
import { stopMessages } from '@zaguan/contracts/messages';
import * as visit from '@zaguan/contracts/patientVisit';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const visitApi = api.injectEndpoints({
  endpoints: (build) => ({
    look: queryOf(build, visit.lookAtLink, []),
    open: mutationOf(build, visit.openLink, []),
    confirm: mutationOf(build, visit.confirmByLink, []),
    cancel: mutationOf(build, visit.cancelByLink, []),
    stop: mutationOf(build, stopMessages, []),
    packet: mutationOf(build, intake.openPacket, []),
    saveForm: mutationOf(build, intake.saveFormByLink, []),
    sign: mutationOf(build, intake.signByLink, []),
  }),
});
