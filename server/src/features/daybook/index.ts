import { daybookDay as dayContract, daybookWeek as weekContract, liveUpdates } from '@zaguan/contracts/daybook';
import { handle } from '../../platform/endpoint/handler.ts';
import { daybookDay, daybookWeek } from './daybookDay.ts';

export const daybookEndpoints = [
  handle(dayContract, daybookDay),
  handle(weekContract, daybookWeek),
  // Answered by the mount itself, which owns the open line; it only needs to know that it exists.
  handle(liveUpdates, async () => ({ type: 'resync' as const })),
];
