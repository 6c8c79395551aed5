import * as contract from '@zaguan/contracts/daybook';
import { handle } from '../../platform/endpoint/handler.ts';
import { daybookDay, daybookWeek } from './daybookDay.ts';
import { daySheet, daySheetCalendar } from './daySheet.ts';

export const daybookEndpoints = [
  handle(contract.daybookDay, daybookDay),
  handle(contract.daybookWeek, daybookWeek),
  handle(contract.daySheet, daySheet),
  handle(contract.daySheetCalendar, daySheetCalendar),
  // Answered by the mount itself, which owns the open line; it only needs to know that it exists.
  handle(contract.liveUpdates, async () => ({ type: 'resync' as const })),
];
