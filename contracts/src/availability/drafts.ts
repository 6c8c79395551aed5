import { FAULTS, WARNINGS } from '@zaguan/core/schedule';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { instant, undoable, version, askedDate } from '../wire.ts';
import { line } from '../setup/fields.ts';
import { MAX_EDITS, scheduleEdit } from './edits.ts';
import { impact } from './impact.ts';

const draft = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  version: z.number(),
  editCount: z.number(),
  createdBy: z.string(),
  createdAt: instant,
});
export type Draft = z.output<typeof draft>;
const told = <C extends readonly [string, ...string[]]>(codes: C) =>
  z.strictObject({
    code: z.enum(codes),
    edit: z.number(),
    facts: z.record(z.string(), z.union([z.string(), z.number()])),
  });
const ofDraft = z.strictObject({ id: z.uuid() });
const edit = { kind: 'role', action: 'availability.edit' } as const;

export const listDrafts = defineEndpoint({
  name: 'availability.listDrafts',
  method: 'get',
  path: '/availability/drafts',
  summary: 'Schedules that are thought of and not in force.',
  access: edit,
  output: z.strictObject({ drafts: z.array(draft) }),
  errors: ['NotAllowed'],
});

export const createDraft = defineEndpoint({
  name: 'availability.createDraft',
  method: 'post',
  path: '/availability/drafts',
  summary: 'Begin a draft. Nothing in it holds until it is published.',
  access: edit,
  body: z.strictObject({ name: line(80) }),
  output: z.strictObject({ draft }),
  errors: ['NotAllowed'],
});

export const addToDraft = defineEndpoint({
  name: 'availability.addToDraft',
  method: 'post',
  path: '/availability/drafts/:id/edits',
  summary: 'Add edits to a draft, on top of those in it.',
  access: edit,
  params: ofDraft,
  body: z.strictObject({ version, edits: z.array(scheduleEdit).min(1).max(MAX_EDITS) }),
  output: z.strictObject({ draft }),
  errors: ['NotAllowed', 'NotFound', 'ChangedMeanwhile', 'ScheduleRefused'],
  bodyLimit: 512 * 1024,
});

export const dropFromDraft = defineEndpoint({
  name: 'availability.dropFromDraft',
  method: 'delete',
  path: '/availability/drafts/:id/edits/:at',
  summary: 'Take one edit out of a draft again; those after it stay, if they still can.',
  access: edit,
  params: z.strictObject({ id: z.uuid(), at: z.coerce.number().int().min(0).max(1000) }),
  query: z.strictObject({ version: z.coerce.number().int() }),
  output: z.strictObject({ draft }),
  errors: ['NotAllowed', 'NotFound', 'ChangedMeanwhile', 'ScheduleRefused'],
});

export const compareDraft = defineEndpoint({
  name: 'availability.compareDraft',
  method: 'get',
  path: '/availability/drafts/:id',
  summary:
    'A draft against what holds today: its edits, what stands in its way, and what publishing it from a date would do.',
  access: edit,
  params: ofDraft,
  query: z.strictObject({ from: askedDate }),
  output: z.strictObject({
    draft,
    edits: z.array(z.looseObject({ do: z.string() })),
    faults: z.array(told(FAULTS)),
    warnings: z.array(told(WARNINGS)),
    impact: impact.nullable(),
  }),
  errors: ['NotAllowed', 'NotFound'],
  readsPatients: true,
});

export const publishDraft = defineEndpoint({
  name: 'availability.publishDraft',
  method: 'post',
  path: '/availability/drafts/:id/publish',
  summary: 'Put a draft into force from a date, all of it or none.',
  access: edit,
  params: ofDraft,
  body: z.strictObject({ version, from: askedDate, agreed: z.boolean().optional() }),
  output: z.strictObject({ toMove: z.number(), undo: undoable }),
  errors: ['NotAllowed', 'NotFound', 'ChangedMeanwhile', 'ScheduleRefused', 'AgreementNeeded'],
});

export const discardDraft = defineEndpoint({
  name: 'availability.discardDraft',
  method: 'delete',
  path: '/availability/drafts/:id',
  summary: 'Throw a draft away.',
  access: edit,
  params: ofDraft,
  query: z.strictObject({ version: z.coerce.number().int() }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotAllowed', 'NotFound', 'ChangedMeanwhile'],
});
