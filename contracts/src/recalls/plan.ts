import { INTERVAL_UNITS, type RecallPlan, type Who } from '@zaguan/core/recalls';
import { z } from 'zod';
import { SEXES } from '../patients/edit.ts';
import { id, line, optionalLine } from '../setup/fields.ts';
import { defineRecords } from '../setup/record.ts';

/** Longer than about thirty years is no interval of care. */
const LONGEST = { days: 10_000, weeks: 1_500, months: 360, years: 30 } as const;

const interval = z
  .strictObject({ n: z.number().int().min(1, { error: 'too-small' }), unit: z.enum(INTERVAL_UNITS) })
  .superRefine(({ n, unit }, check) => {
    if (n > LONGEST[unit]) check.addIssue({ code: 'custom', path: ['n'], message: 'too-big' });
  });

/** A day of any year; February 29 is none of every year. */
const monthDay = z
  .string()
  .regex(
    /^(?:(?:0[13578]|1[02])-(?:0[1-9]|[12]\d|3[01])|(?:0[469]|11)-(?:0[1-9]|[12]\d|30)|02-(?:0[1-9]|1\d|2[0-8]))$/,
    {
      error: 'not-a-day',
    },
  );

const someTypes = z.array(id).min(1, { error: 'no-type' }).max(40);

const when = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('after-visit'), typeIds: someTypes, every: interval }),
  z.strictObject({
    kind: z.literal('build-up'),
    typeIds: someTypes,
    steps: z
      .array(
        z.strictObject({
          visits: z.number().int().min(1, { error: 'too-small' }).max(200, { error: 'too-big' }),
          every: interval,
        }),
      )
      .min(1, { error: 'no-step' })
      .max(10),
    afterwards: interval,
    restartAfter: interval.nullable(),
  }),
  z.strictObject({ kind: z.literal('season'), typeIds: someTypes, from: monthDay, until: monthDay }),
  z.strictObject({ kind: z.literal('never-seen'), after: interval }),
  z.strictObject({
    kind: z.literal('on-register'),
    registerId: id,
    typeIds: someTypes,
    after: interval,
    every: interval.nullable(),
  }),
]);

const years = z.number().int().min(0, { error: 'too-small' }).max(130, { error: 'too-big' });
/** An ICD-10-CM code or the beginning of one, with its point. */
const codeBeginning = z
  .string()
  .trim()
  .toUpperCase()
  .regex(/^[A-Z]\d(?:[0-9A-Z](?:\.[0-9A-Z]{0,4})?)?$/, { error: 'not-a-code' });

function checkWho(who: Pick<Who, 'ageFrom' | 'ageTo'>, check: z.RefinementCtx): void {
  if (who.ageFrom !== null && who.ageTo !== null && who.ageTo < who.ageFrom)
    check.addIssue({ code: 'custom', path: ['ageTo'], message: 'until-before-from' });
}

const whoFields = {
  ageFrom: years.nullable(),
  ageTo: years.nullable(),
  sexes: z.array(z.enum(SEXES)).min(1, { error: 'needed' }).nullable(),
  languages: z
    .array(z.enum(['en', 'es']))
    .min(1, { error: 'needed' })
    .nullable(),
  homeSiteIds: z.array(id).min(1, { error: 'needed' }).max(200).nullable(),
  codes: z.array(codeBeginning).min(1, { error: 'needed' }).max(50).nullable(),
  registerIds: z.array(id).min(1, { error: 'needed' }).max(50).nullable(),
  fields: z
    .array(
      z.strictObject({
        fieldId: id,
        values: z
          .array(z.union([z.string().max(500), z.number(), z.boolean()]))
          .min(1, { error: 'needed' })
          .max(30),
      }),
    )
    .max(10),
};
export const who = z.strictObject(whoFields).superRefine(checkWho);

const planRules = {
  who,
  when,
  aheadDays: z.number().int().min(0, { error: 'too-small' }).max(180, { error: 'too-big' }),
  graceDays: z.number().int().min(0, { error: 'too-small' }).max(365, { error: 'too-big' }),
  /** `null`: of the types that the plan goes by. */
  comingTypeIds: z.array(id).min(1, { error: 'needed' }).max(200).nullable(),
  quietDays: z.number().int().min(0, { error: 'too-small' }).max(365, { error: 'too-big' }),
};

export const recallPlanDoc = z
  .strictObject({
    name: line(80),
    /** People are listed only by plans that are on. */
    isOn: z.boolean(),
    ...planRules,
    sortOrder: z.number().int().min(0).max(9999),
  })
  .superRefine(({ when: asked }, check) => {
    if (asked.kind === 'season' && asked.from === asked.until)
      check.addIssue({ code: 'custom', path: ['when', 'until'], message: 'empty-stretch' });
  });
export type RecallPlanDoc = z.output<typeof recallPlanDoc>;

/** What core reads of a plan's record. */
export function toRecallPlan(planId: string, doc: RecallPlanDoc): RecallPlan {
  const { who: asked, when: at, aheadDays, graceDays, comingTypeIds, quietDays } = doc;
  return { id: planId, who: asked, when: at, aheadDays, graceDays, comingTypeIds, quietDays };
}

export const recallPlans = defineRecords('recall-plan', recallPlanDoc, { view: 'recalls.view', edit: 'recalls.edit' });

export const registerDoc = z.strictObject({
  name: line(80),
  note: optionalLine(200),
  /** Who is on it by themselves; `null`: whoever is put on it by hand. Registers don't build on each other. */
  rule: z
    .strictObject({ ...whoFields, registerIds: z.null() })
    .superRefine(checkWho)
    .nullable(),
  sortOrder: z.number().int().min(0).max(9999),
});
export type RegisterDoc = z.output<typeof registerDoc>;

export const registers = defineRecords('register', registerDoc, { view: 'recalls.view', edit: 'recalls.edit' });
