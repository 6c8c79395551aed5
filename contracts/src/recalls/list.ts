import { RECALL_CODES, RECALL_STATES } from '@zaguan/core/recalls';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { id, optionalLine } from '../setup/fields.ts';
import { localDate, undoable, unreadableRows, version } from '../wire.ts';
import { recallPlanDoc } from './plan.ts';

const facts = z.record(z.string(), z.union([z.string(), z.number(), z.boolean(), z.null()]));
const counts = z.partialRecord(z.enum(RECALL_STATES), z.number());
const by = z.enum(RECALL_CODES).nullable();

/** What somebody has said to a plan, or the desk for them. */
const choice = z.strictObject({
  id,
  kind: z.enum(['later', 'declined', 'done-elsewhere']),
  date: localDate.nullable(),
  note: z.string(),
  saidOn: localDate,
  /** `null`: the patient. */
  saidBy: z.string().nullable(),
  version,
});

export const recallCounts = defineEndpoint({
  name: 'recalls.counts',
  method: 'get',
  path: '/recalls/counts',
  summary: 'How many people are what to each plan that is on.',
  access: { kind: 'role', action: 'recalls.view' },
  output: z.strictObject({
    plans: z.array(
      z.strictObject({
        id,
        counts,
        /** Of those who are due: whose due date is further back than the grace. */
        overdue: z.number(),
        /** People still to be looked at since the plan was changed; 0: all of it is true. */
        toLookAt: z.number(),
      }),
    ),
  }),
  errors: [],
});

export const PEOPLE_A_PAGE = 50;

const listedPerson = z.strictObject({
  patientId: id,
  /** "Restricted" and initials where the reader may not see them. */
  name: z.string(),
  recordNumber: z.string(),
  birthDate: localDate.nullable(),
  language: z.enum(['en', 'es']),
  homeSiteId: z.string().nullable(),
  state: z.enum(RECALL_STATES),
  by,
  facts,
  dueOn: localDate.nullable(),
  lastOn: localDate.nullable(),
  lastTypeId: z.string().nullable(),
  count: z.number().nullable(),
  overdue: z.boolean(),
});
export type ListedPerson = z.output<typeof listedPerson>;

/** Where a page ends: the last one's due date and id. */
const after = z.strictObject({ dueOn: localDate.nullable(), patientId: id });

export const recallList = defineEndpoint({
  name: 'recalls.list',
  method: 'post',
  path: '/recalls/plans/:planId/people',
  summary: 'The people of a plan that are in a state, the longest due first, a page at a time.',
  access: { kind: 'role', action: 'recalls.view' },
  params: z.strictObject({ planId: id }),
  body: z.strictObject({
    state: z.enum(RECALL_STATES),
    overdueOnly: z.boolean().default(false),
    homeSiteId: id.nullable().default(null),
    after: after.nullable().default(null),
  }),
  output: z.strictObject({
    today: localDate,
    people: z.array(listedPerson),
    next: after.nullable(),
    unreadable: unreadableRows,
  }),
  errors: ['NotFound'],
  readsPatients: true,
});

const answer = z.strictObject({ code: z.enum(RECALL_CODES), passed: z.boolean(), facts });

export const whyRecalled = defineEndpoint({
  name: 'recalls.why',
  method: 'post',
  path: '/recalls/why',
  summary:
    'Why a patient is, or is not, on the list of each plan that is on: every rule, with the values that decided.',
  access: { kind: 'role', action: 'recalls.view' },
  body: z.strictObject({ patientId: id }),
  output: z.strictObject({
    patientId: id,
    name: z.string(),
    today: localDate,
    plans: z.array(
      z.strictObject({
        planId: id,
        plan: z.string(),
        state: z.enum(RECALL_STATES),
        by,
        dueOn: localDate.nullable(),
        lastOn: localDate.nullable(),
        lastTypeId: z.string().nullable(),
        count: z.number().nullable(),
        answers: z.array(answer),
        choices: z.array(choice),
      }),
    ),
    registers: z.array(
      z.strictObject({
        memberId: id,
        registerId: id,
        register: z.string(),
        from: localDate,
        until: localDate.nullable(),
        how: z.enum(['rule', 'hand']),
      }),
    ),
  }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});
export type WhyRecalled = z.output<typeof whyRecalled.output>;

export const decideRecall = defineEndpoint({
  name: 'recalls.decide',
  method: 'post',
  path: '/recalls/choices',
  summary:
    'Put somebody off until a date, note that they don’t want to be invited by a plan, or that it was done elsewhere.',
  access: { kind: 'role', action: 'recalls.decide' },
  body: z.strictObject({
    id,
    planId: id,
    patientId: id,
    kind: z.enum(['later', 'declined', 'done-elsewhere']),
    /** Of `later` the first date on which they may be invited again, of `done-elsewhere` when it was done. */
    date: localDate.nullable(),
    note: optionalLine(200),
  }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'InvalidInput', 'NotAllowed', 'ChangedMeanwhile'],
});

export const takeBackChoice = defineEndpoint({
  name: 'recalls.takeBackChoice',
  method: 'post',
  path: '/recalls/choices/:id/end',
  summary: 'What was said to a plan holds no longer.',
  access: { kind: 'role', action: 'recalls.decide' },
  params: z.strictObject({ id }),
  body: z.strictObject({ version }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'ChangedMeanwhile', 'NotAllowed'],
});

/** So many of each are named. */
export const NAMED_IN_PREVIEW = 10;

const named = z.strictObject({ patientId: id, name: z.string() });

export const previewPlan = defineEndpoint({
  name: 'recalls.preview',
  method: 'post',
  path: '/recalls/preview',
  summary: 'Whom a plan would catch as it is written now, and who joins and who leaves its list. Saves nothing.',
  access: { kind: 'role', action: 'recalls.edit' },
  body: z.strictObject({ id, doc: recallPlanDoc }),
  output: z.strictObject({
    counts,
    overdue: z.number(),
    /** People who were looked at, and whether that was everybody: a very large clinic is looked at in part. */
    lookedAt: z.number(),
    whole: z.boolean(),
    /** Due by it now and not before, and the other way around. */
    joins: z.strictObject({ count: z.number(), some: z.array(named) }),
    leaves: z.strictObject({ count: z.number(), some: z.array(named) }),
    /** Of those it does not ask for: how many by which rule. */
    leftOutBy: z.partialRecord(z.enum(RECALL_CODES), z.number()),
  }),
  errors: ['SetupRefused'],
  readsPatients: true,
});
export type PlanPreview = z.output<typeof previewPlan.output>;

export const registerPeople = defineEndpoint({
  name: 'recalls.registerPeople',
  method: 'get',
  path: '/recalls/registers/:registerId/people',
  summary: 'Who is on a register, and who was, the latest first; no more than can be looked through.',
  access: { kind: 'role', action: 'recalls.view' },
  params: z.strictObject({ registerId: id }),
  output: z.strictObject({
    now: z.number(),
    /** There are more than are listed. */
    more: z.boolean(),
    people: z.array(
      z.strictObject({
        memberId: id,
        patientId: id,
        name: z.string(),
        from: localDate,
        until: localDate.nullable(),
        how: z.enum(['rule', 'hand']),
        addedBy: z.string().nullable(),
        endedBy: z.string().nullable(),
      }),
    ),
  }),
  errors: ['NotFound'],
  readsPatients: true,
});

export const putOnRegister = defineEndpoint({
  name: 'recalls.putOnRegister',
  method: 'post',
  path: '/recalls/registers/:registerId/people',
  summary: 'Put somebody on a register that is kept by hand.',
  access: { kind: 'role', action: 'recalls.edit' },
  params: z.strictObject({ registerId: id }),
  body: z.strictObject({ patientId: id }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'KeptByRule', 'OnRegister', 'NotAllowed'],
});

export const takeOffRegister = defineEndpoint({
  name: 'recalls.takeOffRegister',
  method: 'post',
  path: '/recalls/register-members/:id/end',
  summary: 'Take somebody off a register that is kept by hand; that they were on it stays.',
  access: { kind: 'role', action: 'recalls.edit' },
  params: z.strictObject({ id }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'KeptByRule', 'ChangedMeanwhile', 'NotAllowed'],
});
