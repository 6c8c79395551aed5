import * as booking from '@zaguan/contracts/booking';
import * as clinic from '@zaguan/contracts/clinic';
import * as openings from '@zaguan/contracts/openings';
import * as verification from '@zaguan/contracts/verification';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const bookingApi = api.injectEndpoints({
  endpoints: (build) => ({
    clinic: queryOf(build, clinic.publicClinic, ['Clinic']),
    visitTypes: queryOf(build, clinic.publicVisitTypes, ['Clinic']),
    providers: queryOf(build, clinic.publicProviders, ['Openings']),
    days: queryOf(build, openings.publicDays, ['Openings']),
    times: queryOf(build, openings.publicTimes, ['Openings']),
    placeHold: mutationOf(build, booking.placeHold, ['Openings']),
    extendHold: mutationOf(build, booking.extendHold, []),
    releaseHold: mutationOf(build, booking.releaseHold, ['Openings']),
    sendCode: mutationOf(build, verification.sendCode, []),
    checkCode: mutationOf(build, verification.checkCode, []),
    book: mutationOf(build, booking.bookHeld, ['Openings']),
  }),
});
