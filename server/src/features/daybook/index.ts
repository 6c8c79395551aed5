import * as contract from '@zaguan/contracts/daybook';
import { handle } from '../../platform/endpoint/handler.ts';
import { undoWith } from '../../platform/undo/undo.ts';
import { daybookDay, daybookWeek, visitInShort } from './daybookDay.ts';
import { daySheet, daySheetCalendar } from './daySheet.ts';
import { setDelay } from './delays.ts';
import { daybookMonth } from './month.ts';
import { changeNote, removeNote, restoreNote, writeNote } from './notes.ts';
import {
  changeView,
  daybookLanes,
  daybookViews,
  orderViews,
  removeView,
  restoreView,
  saveView,
  setDefaultView,
} from './views.ts';

export { delayRounds } from './delays.ts';
export { sheetFileRounds } from './sheetFiles/index.ts';

export const daybookEndpoints = [
  handle(contract.daybookDay, daybookDay),
  handle(contract.daybookWeek, daybookWeek),
  handle(contract.visitInShort, visitInShort),
  handle(contract.daybookMonth, daybookMonth),
  handle(contract.daySheet, daySheet),
  handle(contract.daySheetCalendar, daySheetCalendar),
  handle(contract.setDelay, setDelay),
  handle(contract.writeNote, writeNote),
  handle(contract.changeNote, changeNote),
  handle(contract.removeNote, removeNote),
  handle(contract.daybookViews, daybookViews),
  handle(contract.daybookLanes, daybookLanes),
  handle(contract.saveView, saveView),
  handle(contract.changeView, changeView),
  handle(contract.removeView, removeView),
  handle(contract.orderViews, orderViews),
  handle(contract.setDefaultView, setDefaultView),
  // Answered by the mount itself, which owns the open line; it only needs to know that it exists.
  handle(contract.liveUpdates, async () => ({ type: 'resync' as const })),
];

/** Commands that may stand as an inverse. */
export const daybookCommands = {
  'daybook.setDelay': undoWith('daybook.annotate', setDelay),
  'daybook.changeNote': undoWith('daybook.annotate', changeNote),
  'daybook.removeNote': undoWith('daybook.annotate', removeNote),
  'daybook.restoreNote': undoWith('daybook.annotate', restoreNote),
  'daybook.changeView': undoWith('daybook.view', changeView),
  'daybook.removeView': undoWith('daybook.view', removeView),
  'daybook.restoreView': undoWith('daybook.view', restoreView),
  'daybook.orderViews': undoWith('daybook.view', orderViews),
  'daybook.setDefaultView': undoWith('daybook.share-views', setDefaultView),
};
