import * as messages from '@zaguan/contracts/messages';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const simulatedCarriersApi = api.injectEndpoints({
  endpoints: (build) => ({
    simulatedCarriers: queryOf(build, messages.simulatedCarriers, ['Messages']),
    reply: mutationOf(build, messages.simulatedReply, ['Messages', 'Day']),
    mail: mutationOf(build, messages.simulatedMail, ['Messages', 'Day']),
    clock: mutationOf(build, messages.simulatedClock, ['Messages', 'Day', 'Clinic', 'Openings']),
    carrier: mutationOf(build, messages.simulatedCarrier, ['Messages']),
    ofVisit: queryOf(build, messages.visitMessages, ['Messages']),
  }),
});
