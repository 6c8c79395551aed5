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
} from '../wire.ts';

/** Recurring working hours as typed in. Shared with the form, so that page and server refuse the same things. */
export const workingHoursFields = z
  .strictObject({
    resourceId,
    siteId,
    weekdays: z.array(weekday).min(1, { error: 'no-weekday' }).max(7),
    fromMinute: wallMinute.max(1435),
    toMinute: wallMinute.min(5),
    everyWeeks: z.number().int().min(1).max(8),
    effectiveFrom: localDate,
    effectiveUntil: localDate.nullable(),
    places: z.number().int().min(1).max(20),
    acceptsTypeIds: z.array(visitTypeId).min(1, { error: 'no-type' }).nullable(),
    acceptsKinds: z.array(patientKind).min(1).nullable(),
    invitedOnly: z.boolean(),
    online: z.boolean(),
  })
  .superRefine((hours, check) => {
    if (hours.toMinute < hours.fromMinute)
      check.addIssue({ code: 'custom', path: ['toMinute'], message: 'across-midnight' });
    if (hours.toMinute === hours.fromMinute)
      check.addIssue({ code: 'custom', path: ['toMinute'], message: 'empty-stretch' });
    if (hours.effectiveUntil !== null && hours.effectiveUntil < hours.effectiveFrom)
      check.addIssue({ code: 'custom', path: ['effectiveUntil'], message: 'until-before-from' });
  });

const workingHours = z.strictObject({
  id: z.string(),
  resourceId: z.string(),
  siteId: z.string(),
  weekdays: z.array(z.number()),
  fromMinute: z.number(),
  toMinute: z.number(),
  everyWeeks: z.number(),
  effectiveFrom: z.string(),
  effectiveUntil: z.string().nullable(),
  places: z.number(),
  acceptsTypeIds: z.array(z.string()).nullable(),
  acceptsKinds: z.array(patientKind).nullable(),
  invitedOnly: z.boolean(),
  online: z.boolean(),
  version: z.number(),
});
export type WorkingHours = z.output<typeof workingHours>;

export const listWorkingHours = defineEndpoint({
  name: 'availability.listWorkingHours',
  method: 'get',
  path: '/availability/hours',
  summary: 'Recurring working hours of all people, in force today or later.',
  access: { kind: 'role', action: 'availability.view' },
  output: z.strictObject({
    hours: z.array(workingHours),
    mayEdit: z.enum(['all', 'own', 'none']),
    ownResourceId: z.string().nullable(),
  }),
  errors: [],
});

export const addWorkingHours = defineEndpoint({
  name: 'availability.addWorkingHours',
  method: 'post',
  path: '/availability/hours',
  summary: 'Add recurring working hours for a person at a site. Answers how many start times this opens.',
  access: { kind: 'role', action: 'availability.edit' },
  body: workingHoursFields,
  output: z.strictObject({ hours: workingHours, firstDate: z.string().nullable(), undo: undoable }),
  errors: ['HoursOverlap', 'NotFound', 'NotAllowed'],
});

export const removeWorkingHours = defineEndpoint({
  name: 'availability.removeWorkingHours',
  method: 'delete',
  path: '/availability/hours/:id',
  summary: 'Take recurring working hours away again. Refused while visits are booked in them.',
  access: { kind: 'role', action: 'availability.edit' },
  params: z.strictObject({ id: workingHoursId }),
  query: z.strictObject({ version: z.coerce.number().int() }),
  output: z.strictObject({ undo: undoable }),
  errors: ['NotFound', 'NotAllowed', 'HoursInUse', 'ChangedMeanwhile'],
});
