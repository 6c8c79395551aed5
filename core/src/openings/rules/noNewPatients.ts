import { fullMask, NO_CELLS } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The provider takes no new patients; the desk may still book one. */
export const noNewPatients: StartRule = {
  code: 'no-new-patients',
  scope: 'start',
  variesBy: 'criteria',
  binds: 'online',
  hide: ({ index, criteria, providerId, day }) =>
    criteria.kind === 'new' && providerId !== null && index.resource(providerId).acceptsNew === false
      ? fullMask(day.cells)
      : NO_CELLS,
  facts: ({ providerId }) => [{ providerId }],
};
