import { NO_CELLS, fullMask } from '../../time/index.ts';
import type { StartRule } from '../rule.ts';

/** The answers before booking allow this visit only from a later date. */
export const notBefore: StartRule = {
  code: 'not-before',
  scope: 'start',
  variesBy: 'date',
  binds: 'everyone',
  hide: ({ wish, day }) => (wish.notBefore && day.date < wish.notBefore ? fullMask(day.cells) : NO_CELLS),
  facts: ({ wish }) => [{ firstDate: wish.notBefore ?? null }],
};
