import { addDays, NO_CELLS, epochToWall, fullMask } from '../../time/index.ts';
import type { Frame } from '../frame.ts';
import type { StartRule } from '../rule.ts';

function lastDate({ index, site, policy }: Frame) {
  return addDays(epochToWall(site.zone, index.now).date, policy.windowDays.value);
}

/** Later than the booking window: n days after today's date at the site, that day included. */
export const tooFar: StartRule = {
  code: 'too-far',
  scope: 'start',
  variesBy: 'date',
  binds: 'online',
  hide: (frame) => (frame.day.date > lastDate(frame) ? fullMask(frame.day.cells) : NO_CELLS),
  facts: (frame) => [
    { windowDays: frame.policy.windowDays.value, level: frame.policy.windowDays.level, lastDate: lastDate(frame) },
  ],
};
