import {
  addToDraft,
  compareDraft,
  createDraft,
  discardDraft,
  dropFromDraft,
  listDrafts,
  publishDraft,
} from '@zaguan/contracts/availability';
import { mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

export const draftsApi = api.injectEndpoints({
  endpoints: (build) => ({
    drafts: queryOf(build, listDrafts, ['Hours']),
    compareDraft: queryOf(build, compareDraft, ['Hours', 'Day']),
    createDraft: mutationOf(build, createDraft, ['Hours']),
    addToDraft: mutationOf(build, addToDraft, ['Hours']),
    dropFromDraft: mutationOf(build, dropFromDraft, ['Hours']),
    publishDraft: mutationOf(build, publishDraft, ['Hours', 'Day', 'Openings', 'Clinic', 'Today', 'Setup']),
    discardDraft: mutationOf(build, discardDraft, ['Hours']),
  }),
});
