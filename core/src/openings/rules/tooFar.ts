import { addDays, fullMask, NO_CELLS } from '../../time/index.ts';
import type { Frame } from '../frame.ts';
import type { StartRule } from '../rule.ts';

function lastDate({ index, site, policy }: Frame) {
  return addDays(index.today(site.id).date, policy.windowDays.value);
}

/** Later than the booking window: n days after today's date at the site, that day included. */
export const tooFar: StartRule = {
  code: 'too-far',
  scope: 'start',
  variesBy: 'date',
  binds: 'online',
  hide: ({ index, site, day, policy }) =>
    day.number > index.today(site.id).number + policy.windowDays.value ? fullMask(day.cells) : NO_CELLS,
  facts: (frame) => [
    { windowDays: frame.policy.windowDays.value, level: frame.policy.windowDays.level, lastDate: lastDate(frame) },
  ],
};
