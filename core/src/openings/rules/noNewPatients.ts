import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The provider takes no new patients; the desk may still book one. */
export const noNewPatients: StartRule = {
  code: 'no-new-patients',
  scope: 'start',
  variesBy: 'wish',
  binds: 'online',
  hide: ({ index, wish, providerId, day }) =>
    wish.kind === 'new' && providerId !== null && index.resource(providerId).acceptsNew === false
      ? fullMask(day.cells)
      : NO_CELLS,
  facts: ({ providerId }) => [{ providerId }],
};
