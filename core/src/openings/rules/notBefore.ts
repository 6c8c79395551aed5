import { NO_CELLS, fullMask } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The answers before booking allow this visit only from a later date. */
export const notBefore: StartRule = {
  code: 'not-before',
  scope: 'start',
  variesBy: 'date',
  binds: 'everyone',
  hide: ({ criteria, day }) => (criteria.notBefore && day.date < criteria.notBefore ? fullMask(day.cells) : NO_CELLS),
  facts: ({ criteria }) => [{ firstDate: criteria.notBefore ?? null }],
};
