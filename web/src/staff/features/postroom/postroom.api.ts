import * as messages from '@zaguan/contracts/messages';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const postroomApi = api.injectEndpoints({
  endpoints: (build) => ({
    postroom: queryOf(build, messages.postroom, ['Messages']),
    reply: mutationOf(build, messages.postroomReply, ['Messages', 'Day']),
    mail: mutationOf(build, messages.postroomMail, ['Messages', 'Day']),
    clock: mutationOf(build, messages.postroomClock, ['Messages', 'Day', 'Clinic', 'Openings']),
    carrier: mutationOf(build, messages.postroomCarrier, ['Messages']),
    ofVisit: queryOf(build, messages.visitMessages, ['Messages']),
  }),
});
