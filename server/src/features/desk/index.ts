import * as contract from '@zaguan/contracts/desk';
import { handle } from '../../platform/endpoint/handler.ts';
import { undoWith } from '../../platform/undo/undo.ts';
import { checkAtDesk, proposeAtDesk, timesOfDay } from './ask.ts';
import { backToBench, listBench, ownUnplaced, putOnBench, withdrawUnplaced } from './bench.ts';
import { bookAtDesk } from './bookAtDesk.ts';
import { contextOfPatient } from './context.ts';
import { sendDetails, visitDetails } from './details.ts';
import { extendDeskHold, holdAtDesk, releaseDeskHold } from './holdAtDesk.ts';
import { askRequest, listRequests, reopenRequest, takeBackRequest, withdrawRequest } from './requests.ts';
import { takeBack, takeOffBench } from './takeBack.ts';
import { typeAtDesk } from './typeAtDesk.ts';
import { endWish, openWish, wishesOfVisit } from './wishes.ts';

export { Days, isLostRace, locksFor, planAll } from './plan.ts';
export { bookRequest, openRequest } from './requests.ts';
export { type Asked, kindOf } from './resolve.ts';

export const deskEndpoints = [
  handle(contract.contextOfPatient, contextOfPatient),
  handle(contract.typeAtDesk, typeAtDesk),
  handle(contract.proposeAtDesk, proposeAtDesk),
  handle(contract.timesOfDay, timesOfDay),
  handle(contract.checkAtDesk, checkAtDesk),
  handle(contract.holdAtDesk, holdAtDesk),
  handle(contract.extendDeskHold, extendDeskHold),
  handle(contract.releaseDeskHold, releaseDeskHold),
  handle(contract.bookAtDesk, bookAtDesk),
  handle(contract.requests, listRequests),
  handle(contract.askRequest, askRequest),
  handle(contract.withdrawRequest, withdrawRequest),
  handle(contract.bench, listBench),
  handle(contract.putOnBench, putOnBench),
  handle(contract.ownUnplaced, ownUnplaced),
  handle(contract.withdrawUnplaced, withdrawUnplaced),
  handle(contract.wishesOfVisit, wishesOfVisit),
  handle(contract.endWish, endWish),
  handle(contract.visitDetails, visitDetails),
  handle(contract.sendDetails, sendDetails),
];

/** Commands that may stand as an inverse. */
export const deskCommands = {
  'desk.takeBack': undoWith('appointment.book', takeBack),
  'desk.takeBackRequest': undoWith('bookingRequest.ask', takeBackRequest),
  'desk.reopenRequest': undoWith('bookingRequest.ask', reopenRequest),
  'desk.takeOffBench': undoWith('appointment.book', takeOffBench),
  'desk.backToBench': undoWith('appointment.book', backToBench),
  'desk.openWish': undoWith('appointment.book', openWish),
};
