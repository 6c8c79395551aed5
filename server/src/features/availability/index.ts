import * as contract from '@zaguan/contracts/availability';
import { handle } from '../../platform/endpoint/handler.ts';
import { upcoming } from './upcoming.ts';
import * as drafts from './drafts.ts';
import { preview, putBack, save } from './edits.ts';
import * as requests from './requests.ts';
import {
  acceptOtherTimes,
  undoKeepTime,
  undoCall,
  keepVisitTime,
  listVisitsToMove,
  messagesOf,
  moveBack,
  recordCallOf,
} from './visitsToMove.ts';
import { week } from './week.ts';
import { undoWith } from '../../platform/undo/undo.ts';

export { toImpact } from './edits.ts';
export { clinicForImpact } from './computeImpact.ts';
export { addVisitsToMove, removeFittingAgain } from './visitsToMove.repository.ts';
export { mayEditHoursOf } from './rights.ts';
export { countVisitsToMove } from './visitsToMove.ts';

export const availabilityEndpoints = [
  handle(contract.scheduleWeek, week),
  handle(contract.upcomingChanges, upcoming),
  handle(contract.previewSchedule, preview),
  handle(contract.editSchedule, save),
  handle(contract.visitsToMove, listVisitsToMove),
  handle(contract.acceptTimes, acceptOtherTimes),
  handle(contract.messagesOfMoves, messagesOf),
  handle(contract.keepTime, keepVisitTime),
  handle(contract.recordCall, recordCallOf),
  handle(contract.requestTimeOff, requests.ask),
  handle(contract.listTimeOffRequests, requests.list),
  handle(contract.decideTimeOff, requests.decide),
  handle(contract.listDrafts, drafts.list),
  handle(contract.createDraft, drafts.create),
  handle(contract.addToDraft, drafts.add),
  handle(contract.dropFromDraft, drafts.drop),
  handle(contract.compareDraft, drafts.compare),
  handle(contract.publishDraft, drafts.publish),
  handle(contract.discardDraft, drafts.discard),
];

/** Commands that may stand as an inverse. */
export const availabilityCommands = {
  'availability.putBack': undoWith('availability.edit', putBack),
  'availability.moveBack': undoWith('appointment.move', moveBack),
  'availability.backOnList': undoWith('appointment.move', undoKeepTime),
  'availability.callBefore': undoWith('appointment.move', undoCall),
  'availability.bringBackDraft': undoWith('availability.edit', drafts.restoreDraft),
  'availability.withdrawRequest': undoWith('availability.edit', requests.withdraw),
  'availability.undecide': undoWith('availability.edit', requests.undecide),
};
