import type { PatientListQuery } from '@zaguan/contracts/patients';
import { keepDraft, keptDraft } from '../../../forms/keptDrafts.ts';

export type Query = PatientListQuery;

/** Who was here last, whoever still comes and whoever no longer does: nobody is hidden without being asked to be. */
export const EVERYONE: Query = {
  text: '',
  statuses: ['new', 'active', 'inactive', 'deceased'],
  siteId: null,
  language: null,
  seen: 'any',
  next: 'any',
  code: '',
  sort: 'fit',
  descending: false,
};

const NAME = 'patients.list';

/** What this tab looked at last: a search names patients, so it stands in no address. */
export function keptQuery(): Query {
  return { ...EVERYONE, ...keptDraft(NAME) };
}

export function keepQuery(query: Query): void {
  keepDraft(NAME, query);
}

/** Filters that are set, apart from the search itself. */
export function filtersSet(query: Query): number {
  const { statuses, siteId, language, seen, next, code } = query;
  const set = [statuses.length < EVERYONE.statuses.length, siteId, language, seen !== 'any', next !== 'any', code];
  return set.filter(Boolean).length;
}
