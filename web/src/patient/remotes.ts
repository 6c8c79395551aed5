import type * as booking from '@zaguan/contracts/booking';
import type * as clinic from '@zaguan/contracts/clinic';
import type * as openings from '@zaguan/contracts/openings';
import type * as proof from '@zaguan/contracts/proof';
import type * as verification from '@zaguan/contracts/verification';
import type { Remote } from '../shared/api/contractApi.ts';

/**
 * Where the first pages call, with the contracts' types but without their schemas: a phone need not load what only the
 * server checks. `remotes.test.ts` holds each against its contract.
 */
const at = <E>(method: Remote<E>['method'], path: string): Remote<E> => ({ method, path });

export const publicClinic = at<typeof clinic.publicClinic>('get', '/public/clinic');
export const publicVisitTypes = at<typeof clinic.publicVisitTypes>('get', '/public/visit-types');
export const publicProviders = at<typeof clinic.publicProviders>('get', '/public/providers');
export const publicPayer = at<typeof clinic.publicPayer>('get', '/public/payers/:payerId');
export const publicDays = at<typeof openings.publicDays>('get', '/public/openings');
export const publicTimes = at<typeof openings.publicTimes>('get', '/public/openings/:date');
export const placeHold = at<typeof booking.placeHold>('post', '/public/holds');
export const extendHold = at<typeof booking.extendHold>('post', '/public/holds/:id/extend');
export const releaseHold = at<typeof booking.releaseHold>('delete', '/public/holds/:id');
export const bookHeld = at<typeof booking.bookHeld>('post', '/public/bookings');
export const sendCode = at<typeof verification.sendCode>('post', '/public/verifications');
export const checkCode = at<typeof verification.checkCode>('post', '/public/verifications/check');
export const proofChallenge = at<typeof proof.proofChallenge>('get', '/public/proofs');
