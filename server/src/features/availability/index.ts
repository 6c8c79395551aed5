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
  'availability.putBack': putBack,
  'availability.moveBack': moveBack,
  'availability.backOnList': backOnList,
  'availability.callBefore': callBefore,
  'availability.bringBackDraft': drafts.bringBack,
  'availability.withdrawRequest': requests.withdraw,
  'availability.undecide': requests.undecide,
};
