import * as contract from '@zaguan/contracts/availability';
import { handle } from '../../platform/endpoint/handler.ts';
import { coming } from './coming.ts';
import * as drafts from './drafts.ts';
import { preview, putBack, save } from './edits.ts';
import * as requests from './requests.ts';
import {
  acceptOtherTimes,
  backOnList,
  callBefore,
  keepVisitTime,
  listVisitsToMove,
  moveBack,
  noteCallOf,
} from './visitsToMove.ts';
import { week } from './week.ts';
import { undoWith } from '../../platform/undo/undo.ts';

export { toImpact } from './edits.ts';
export { clinicJudged } from './judge.ts';
export { noteStranded, takeOffMended } from './visitsToMove.repository.ts';
export { mayEditHoursOf } from './rights.ts';
export { countVisitsToMove } from './visitsToMove.ts';

export const availabilityEndpoints = [
  handle(contract.scheduleWeek, week),
  handle(contract.comingChanges, coming),
  handle(contract.previewSchedule, preview),
  handle(contract.editSchedule, save),
  handle(contract.visitsToMove, listVisitsToMove),
  handle(contract.acceptTimes, acceptOtherTimes),
  handle(contract.keepTime, keepVisitTime),
  handle(contract.noteCall, noteCallOf),
  handle(contract.askTimeOff, requests.ask),
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
  'availability.backOnList': undoWith('appointment.move', backOnList),
  'availability.callBefore': undoWith('appointment.move', callBefore),
  'availability.bringBackDraft': undoWith('availability.edit', drafts.bringBack),
  'availability.withdrawRequest': undoWith('availability.edit', requests.withdraw),
  'availability.undecide': undoWith('availability.edit', requests.undecide),
};
