import type { InputOf } from '@zaguan/contracts';
import type { WireImpact } from '@zaguan/contracts/availability';
import { invitationTemplates } from '@zaguan/contracts/invitations';
import { recallPlans, registers } from '@zaguan/contracts/recalls';
import * as setup from '@zaguan/contracts/setup';
import { anyOf, type Build, mutationOf, queryOf } from '../../../shared/api/contractApi.ts';
import { api } from '../../api.ts';

/** What a saved record changes for the rest of the application. */
const TOUCHES = ['Setup', 'Clinic', 'Hours', 'Day', 'Openings', 'Intake', 'Today', 'Recalls'] as const;

export const KINDS = {
  clinic: setup.clinic,
  site: setup.sites,
  person: setup.people,
  place: setup.places,
  pool: setup.pools,
  'visit-type': setup.visitTypes,
  payer: setup.payers,
  field: setup.fields,
  account: setup.accounts,
  register: registers,
  'recall-plan': recallPlans,
  'invitation-template': invitationTemplates,
} as const;

const LIST_OF = {
  clinic: setup.clinic.list,
  site: setup.sites.list,
  person: setup.people.list,
  place: setup.places.list,
  pool: setup.pools.list,
  'visit-type': setup.visitTypes.list,
  payer: setup.payers.list,
  field: setup.fields.list,
  account: setup.accounts.list,
  register: registers.list,
  'recall-plan': recallPlans.list,
  'invitation-template': invitationTemplates.list,
} as const satisfies Record<setup.SetupKind, unknown>;

export interface RecordList<D> {
  readonly records: readonly setup.SetupRecord<D>[];
  readonly mayEdit: boolean;
}

interface SaveRequest {
  readonly kind: setup.SetupKind;
  readonly records: readonly { readonly id: string; readonly version: number; readonly doc: unknown }[];
  readonly agreed?: readonly string[];
}

/** One query and two mutations for all kinds: the kind chooses the contract. */
const recordEndpoints = (build: Build) => ({
  records: build.query<RecordList<unknown>, setup.SetupKind>({
    query: (kind) => ({ endpoint: LIST_OF[kind], input: {} }),
    providesTags: ['Setup'],
  }),
  saveRecords: build.mutation<{ records: readonly setup.SetupRecord<unknown>[]; undo: { id: string } }, SaveRequest>({
    query: ({ kind, records, agreed = [] }) => ({ endpoint: KINDS[kind].save, input: { records, agreed } }),
    invalidatesTags: (_result, error) => (error?.tag === 'DatabaseAway' ? [] : [...TOUCHES]),
  }),
  effects: build.query<{ impact: WireImpact | null }, Omit<SaveRequest, 'agreed'>>({
    query: ({ kind, records }) => ({ endpoint: KINDS[kind].effects, input: { records } }),
    providesTags: [anyOf('Setup'), anyOf('Hours')],
  }),
  archiveRecords: build.mutation<
    { undo: { id: string } },
    { kind: setup.SetupKind } & InputOf<typeof setup.sites.archive>
  >({
    query: ({ kind, ids, active }) => ({ endpoint: KINDS[kind].archive, input: { ids, active } }),
    invalidatesTags: (_result, error) => (error?.tag === 'DatabaseAway' ? [] : [...TOUCHES]),
  }),
});

export const setupApi = api.injectEndpoints({
  endpoints: (build) => ({
    ...recordEndpoints(build),
    guide: queryOf(build, setup.setupGuide, ['Setup']),
    papers: queryOf(build, setup.papers, ['Setup']),
    previewType: queryOf(build, setup.previewVisitType, ['Setup', 'Hours']),
    previewOnline: queryOf(build, setup.previewOnline, ['Setup', 'Hours']),
    openOnline: mutationOf(build, setup.openOnline, TOUCHES),
    readClosures: mutationOf(build, setup.readClosures, []),
    invite: mutationOf(build, setup.inviteAccount, ['Setup']),
    readInvitation: mutationOf(build, setup.readInvitation, []),
    join: mutationOf(build, setup.acceptInvitation, []),
  }),
});
