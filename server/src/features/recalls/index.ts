import * as contract from '@zaguan/contracts/recalls';
import { handle } from '../../platform/endpoint/handler.ts';
import { undoWith } from '../../platform/undo/undo.ts';
import { recordEndpoints } from '../setup/index.ts';
import { decideRecall, restoreChoice, takeBackChoice } from './choices.ts';
import { recallPlanRules, registerRules } from './kinds.ts';
import { recallCounts, recallList } from './list.ts';
import { previewPlan } from './preview.ts';
import { neverOnRegister, putOnRegister, registerPeople, stillOnRegister, takeOffRegister } from './registers.ts';
import { whyRecalled } from './why.ts';

export { noteChoice } from './choices.ts';
export { dueCount, dueRecallsOf } from './list.ts';
export { catchUp, keepRecalls, RecallKeeper } from './keeper.ts';
export { nameFor, patientFor } from './people.ts';

export const recallsEndpoints = [
  ...recordEndpoints(contract.registers, registerRules),
  ...recordEndpoints(contract.recallPlans, recallPlanRules),
  handle(contract.recallCounts, recallCounts),
  handle(contract.recallList, recallList),
  handle(contract.whyRecalled, whyRecalled),
  handle(contract.decideRecall, decideRecall),
  handle(contract.takeBackChoice, takeBackChoice),
  handle(contract.previewPlan, previewPlan),
  handle(contract.registerPeople, registerPeople),
  handle(contract.putOnRegister, putOnRegister),
  handle(contract.takeOffRegister, takeOffRegister),
];

/** Commands that may stand as an inverse. */
export const recallsCommands = {
  'recalls.takeBackChoice': undoWith('recalls.decide', takeBackChoice),
  'recalls.restoreChoice': undoWith('recalls.decide', restoreChoice),
  'recalls.neverOnRegister': undoWith('recalls.edit', neverOnRegister),
  'recalls.stillOnRegister': undoWith('recalls.edit', stillOnRegister),
};
