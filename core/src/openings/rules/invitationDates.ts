import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** Before the first or after the last date that the invitation may book. */
export const invitationDates: StartRule = {
  code: 'invitation-dates',
  scope: 'start',
  variesBy: 'date',
  binds: 'online',
  hide: ({ criteria: { limits }, day }) =>
    limits &&
    ((limits.fromDate !== null && day.date < limits.fromDate) ||
      (limits.untilDate !== null && day.date > limits.untilDate))
      ? fullMask(day.cells)
      : NO_CELLS,
  facts: ({ criteria: { limits } }) => [{ fromDate: limits?.fromDate ?? null, untilDate: limits?.untilDate ?? null }],
};
