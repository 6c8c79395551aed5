import * as contract from '@zaguan/contracts/booking';
import { handle } from '../../platform/endpoint/handler.ts';
import { bookHeld, visitCalendar } from './bookHeld.ts';
import { cancelVisit, restoreVisit, setStatus } from './changeStatus.ts';
import { extendHold, placeHold, releaseHold } from './placeHold.ts';

export const bookingEndpoints = [
  handle(contract.placeHold, placeHold),
  handle(contract.extendHold, extendHold),
  handle(contract.releaseHold, releaseHold),
  handle(contract.bookHeld, bookHeld),
  handle(contract.visitCalendar, visitCalendar),
  handle(contract.setStatus, setStatus),
  handle(contract.cancelVisit, cancelVisit),
];

/** Commands that may stand as an inverse. */
export const bookingCommands = { 'booking.setStatus': setStatus, 'booking.restoreVisit': restoreVisit };
