import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';
import * as remotes from '../../remotes.ts';

export const bookingApi = api.injectEndpoints({
  endpoints: (build) => ({
    clinic: queryOf(build, remotes.publicClinic, ['Clinic']),
    visitTypes: queryOf(build, remotes.publicVisitTypes, ['Clinic']),
    providers: queryOf(build, remotes.publicProviders, ['Openings']),
    payer: queryOf(build, remotes.publicPayer, ['Clinic']),
    days: queryOf(build, remotes.publicDays, ['Openings']),
    times: queryOf(build, remotes.publicTimes, ['Openings']),
    placeHold: mutationOf(build, remotes.placeHold, ['Openings']),
    extendHold: mutationOf(build, remotes.extendHold, []),
    releaseHold: mutationOf(build, remotes.releaseHold, ['Openings']),
    sendCode: mutationOf(build, remotes.sendCode, []),
    checkCode: mutationOf(build, remotes.checkCode, []),
    book: mutationOf(build, remotes.bookHeld, ['Openings']),
  }),
});
