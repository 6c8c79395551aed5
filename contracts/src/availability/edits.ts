import { FAULTS, WARNINGS } from '@zaguan/core/schedule';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import {
  localDate,
  patientKind,
  resourceId,
  siteId,
  undoable,
  visitTypeId,
  wallMinute,
  weekday,
  workingHoursId,
  version,
} from '../wire.ts';
import { optionalLine } from '../setup/fields.ts';
import { gainAndLoss, impact } from './impact.ts';

const fromMinute = wallMinute.max(1435);
const toMinute = wallMinute.min(5);
const subject = z.strictObject({ of: z.enum(['resource', 'pool']), id: z.uuid() });
const everyWeeks = z.number().int().min(1, { error: 'every-zero' }).max(52);

export const accepts = z.strictObject({
  visitTypeIds: z.array(visitTypeId).min(1, { error: 'no-type' }).nullable(),
  kinds: z.array(patientKind).min(1).nullable(),
  invitedOnly: z.boolean(),
});

const hoursShape = {
  siteId,
  weekdays: z.array(weekday).min(1, { error: 'no-weekday' }).max(7),
  everyWeeks,
  effectiveUntil: localDate.nullable(),
  followsSiteHours: z.boolean(),
  fromMinute,
  toMinute,
  places: z.number().int().min(1).max(50),
  accepts,
  online: z.boolean(),
  /** From so many minutes before each start, other terms. */
  release: z.strictObject({ beforeMin: z.number().int().min(0).max(525_600), accepts, online: z.boolean() }).nullable(),
  caps: z
    .array(
      z.strictObject({
        visitTypeId: visitTypeId.nullable(),
        kind: patientKind.nullable(),
        max: z.number().int().min(0).max(999),
      }),
    )
    .max(20),
  preferredRoomIds: z.array(resourceId).max(50).optional(),
};

type Checked = { fromMinute?: number; toMinute?: number; followsSiteHours?: boolean };
const refuseBackwards = (hours: Checked, check: z.core.$RefinementCtx) => {
  if (hours.fromMinute === undefined || hours.toMinute === undefined || hours.followsSiteHours) return;
  if (hours.toMinute < hours.fromMinute)
    check.addIssue({ code: 'custom', path: ['toMinute'], message: 'across-midnight' });
  if (hours.toMinute === hours.fromMinute)
    check.addIssue({ code: 'custom', path: ['toMinute'], message: 'empty-stretch' });
};

const hoursPattern = z.strictObject(hoursShape).superRefine(refuseBackwards);
const hoursPatternPart = z.strictObject(hoursShape).partial().superRefine(refuseBackwards);

/** Only these days of the week; all of them where it is left out. */
const reachedDays = z.array(weekday).min(1, { error: 'no-weekday' }).max(7).optional();

const reach = z.discriminatedUnion('of', [
  z.strictObject({ of: z.literal('date'), date: localDate }),
  z.strictObject({ of: z.literal('from'), date: localDate, weekdays: reachedDays }),
  z.strictObject({ of: z.literal('all'), weekdays: reachedDays }),
]);

const spanShape = { startDate: localDate, startMinute: wallMinute, endDate: localDate, endMinute: wallMinute };
const refuseBackwardsSpan = (
  span: { startDate: string; startMinute: number; endDate: string; endMinute: number },
  check: z.core.$RefinementCtx,
) => {
  const before =
    span.endDate < span.startDate || (span.endDate === span.startDate && span.endMinute <= span.startMinute);
  if (before) check.addIssue({ code: 'custom', path: ['endDate'], message: 'until-before-from' });
};

const dateHours = z
  .strictObject({ siteId, fromMinute, toMinute, places: hoursShape.places, accepts, online: z.boolean() })
  .superRefine(refuseBackwards);

const weeklyRule = z
  .strictObject({
    weekdays: hoursShape.weekdays,
    everyWeeks,
    anchorDate: localDate,
    effectiveFrom: localDate,
    effectiveUntil: localDate.nullable(),
  })
  .superRefine((rule, check) => {
    if (rule.effectiveUntil !== null && rule.effectiveUntil < rule.effectiveFrom)
      check.addIssue({ code: 'custom', path: ['effectiveUntil'], message: 'until-before-from' });
  });

/** The version of the hours that was seen when the edit was thought of. */
const seen = { hoursId: workingHoursId, version };
const people = z.array(resourceId).min(1, { error: 'no-person' }).max(100);
/** As many strokes of the brush as one edit takes. */
export const MAX_STROKES = 500;
const note = optionalLine(200);

/** One edit of the schedule, as `core/schedule` does it. */
export const scheduleEdit = z.discriminatedUnion('do', [
  z
    .strictObject({ do: z.literal('add-hours'), subject, from: localDate, pattern: hoursPattern })
    .superRefine(({ from, pattern }, check) => {
      if (pattern.effectiveUntil !== null && pattern.effectiveUntil < from)
        check.addIssue({ code: 'custom', path: ['pattern', 'effectiveUntil'], message: 'until-before-from' });
    }),
  z.strictObject({ do: z.literal('change-hours'), ...seen, reach, to: hoursPatternPart, onDate: localDate.optional() }),
  z.strictObject({ do: z.literal('end-hours'), ...seen, reach }),
  z.strictObject({
    do: z.literal('extra-hours'),
    subject,
    date: localDate,
    hours: dateHours,
    splitTimeOff: z.boolean().optional(),
  }),
  z.strictObject({ do: z.literal('drop-date-change'), changeId: z.uuid() }),
  z
    .strictObject({
      do: z.literal('time-off'),
      resourceIds: people,
      siteId: siteId.nullable(),
      reason: note,
      /** Gets extra hours wherever they would have worked. */
      coverId: resourceId.nullable().optional(),
      ...spanShape,
    })
    .superRefine(refuseBackwardsSpan),
  z.strictObject({ do: z.literal('drop-time-off'), id: z.uuid() }),
  z
    .strictObject({
      do: z.literal('keep-free'),
      resourceIds: people,
      siteId: siteId.nullable(),
      rule: weeklyRule,
      fromMinute,
      toMinute,
      note,
    })
    .superRefine(refuseBackwards),
  z.strictObject({ do: z.literal('drop-kept-free'), id: z.uuid(), from: localDate.nullable() }),
  z.strictObject({
    do: z.literal('brush'),
    siteId,
    strokes: z
      .array(z.strictObject({ resourceId, date: localDate, fromMinute, toMinute }).superRefine(refuseBackwards))
      .min(1)
      .max(MAX_STROKES),
    value: z.enum(['shown', 'desk-only', 'by-rule']),
  }),
  z.strictObject({
    do: z.literal('copy-day'),
    subject,
    weekday,
    to: z.array(weekday).min(1, { error: 'no-weekday' }).max(7),
    from: localDate,
  }),
  z.strictObject({ do: z.literal('copy-week'), of: resourceId, to: people, from: localDate }),
  z.strictObject({ do: z.literal('close-site'), siteId, reason: note, ...spanShape }).superRefine(refuseBackwardsSpan),
  z.strictObject({ do: z.literal('drop-closure'), id: z.uuid() }),
]);
export type WireEdit = z.input<typeof scheduleEdit>;

/** A calendar that is read in may bring many. */
export const MAX_EDITS = 250;
/** Hours and single-date changes that may give way to the edits: those the caller has seen to be in the way. */
const replaced = z.array(z.uuid()).max(50).optional();
const edits = z.array(scheduleEdit).min(1).max(MAX_EDITS);
const facts = z.record(z.string(), z.union([z.string(), z.number()]));
const told = <C extends readonly [string, ...string[]]>(codes: C) =>
  z.strictObject({ code: z.enum(codes), edit: z.number(), facts });
export const previewSchedule = defineEndpoint({
  name: 'availability.preview',
  method: 'post',
  path: '/availability/preview',
  summary:
    'What some edits of the schedule would do: start times and places gained and lost, booked visits that would no longer fit. Saves nothing.',
  access: { kind: 'role', action: 'availability.edit' },
  body: z.strictObject({ edits, replaced }),
  output: z.strictObject({
    faults: z.array(told(FAULTS)),
    warnings: z.array(told(WARNINGS)),
    /** What is in the way and can give way, by the `sourceId` of its fault. */
    replaceable: z.array(z.uuid()),
    /** `null` where the edits can't be done. */
    impact: impact.nullable(),
  }),
  errors: ['NotAllowed', 'ChangedMeanwhile', 'NotFound'],
  readsPatients: true,
  bodyLimit: 512 * 1024,
});

export const editSchedule = defineEndpoint({
  name: 'availability.edit',
  method: 'post',
  path: '/availability/edits',
  summary:
    'Make edits of the schedule, all or none. Visits that no longer fit go to the list of visits to move; with any of them the caller must say that this was seen.',
  access: { kind: 'role', action: 'availability.edit' },
  body: z.strictObject({
    edits,
    replaced,
    /** The caller has seen how many visits no longer fit. */
    agreed: z.boolean().optional(),
    /** Tell the patients of those visits at once. */
    tell: z.boolean().optional(),
  }),
  output: z.strictObject({
    toMove: z.number(),
    /** How many of them were sent a message; the others must be called. */
    told: z.number(),
    /** Start times that patients are offered from now on, and no longer, over all visit types and sites. */
    online: gainAndLoss,
    /** The same by visit type and kind of patient, over all sites, most changed first. */
    onlineByType: z.array(z.strictObject({ visitTypeId: z.string(), new: gainAndLoss, established: gainAndLoss })),
    warnings: z.array(told(WARNINGS)),
    undo: undoable,
  }),
  errors: ['NotAllowed', 'ChangedMeanwhile', 'NotFound', 'ScheduleRefused', 'AgreementNeeded'],
  bodyLimit: 512 * 1024,
});
