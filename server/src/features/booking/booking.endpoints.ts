import * as contract from '@zaguan/contracts/booking';
import { handle } from '../../platform/endpoint/handler.ts';
import { bookHeld, visitCalendar } from './bookHeld.ts';
import { confirmVisit, restoreConfirmed } from './confirmVisit.ts';
import { cancelVisit, restoreVisit, setStatus } from './changeStatus.ts';
import { cancelGroup, groupOfVisit, moveGroup, moveGroupBack, restoreGroup } from './group.ts';
import { lookAtVisit } from './looking.ts';
import { isProved } from '../proof/index.ts';
import { moveSnapshot } from './moveSnapshot.ts';
import { moveVisit } from './moveVisit.ts';
import { extendHold, placeHold, releaseHold, releaseHoldAtDesk } from './placeHold.ts';
import type { Shares } from '../../platform/config/config.ts';
import { undoWith } from '../../platform/undo/undo.ts';

/**
 * @param proof whether a hold needs the browser's work first; off only in tests of other things
 * @param shares how much one caller, person or contact may take
 */
export const bookingEndpoints = (proof: boolean, shares: Shares) => [
  handle(contract.placeHold, async (ctx, input) =>
    !proof || (await isProved(ctx, input.proof)) ? placeHold(ctx, input, shares) : ctx.fail('ProofNeeded'),
  ),
  handle(contract.extendHold, extendHold),
  handle(contract.releaseHold, releaseHold),
  handle(contract.releaseHoldAtDesk, releaseHoldAtDesk),
  handle(contract.bookHeld, (ctx, input) => bookHeld(ctx, input, shares)),
  handle(contract.visitCalendar, visitCalendar),
  handle(contract.setStatus, setStatus),
  handle(contract.confirmVisit, confirmVisit),
  handle(contract.cancelVisit, cancelVisit),
  handle(contract.moveVisit, moveVisit),
  handle(contract.lookAtVisit, lookAtVisit),
  handle(contract.moveSnapshot, moveSnapshot),
  handle(contract.groupOfVisit, groupOfVisit),
  handle(contract.moveGroup, moveGroup),
  handle(contract.cancelGroup, cancelGroup),
];

/** Commands that may stand as an inverse. */
export const bookingCommands = {
  'booking.moveVisit': undoWith('appointment.move', moveVisit),
  'booking.putConfirmed': undoWith('appointment.status', restoreConfirmed),
  'booking.setStatus': undoWith('appointment.status', setStatus),
  'booking.moveGroupBack': undoWith('appointment.move', moveGroupBack),
  'booking.restoreGroup': undoWith('appointment.cancel', restoreGroup),
  'booking.restoreVisit': undoWith('appointment.cancel', restoreVisit),
};
