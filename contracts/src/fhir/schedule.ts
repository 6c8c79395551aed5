import { SLOT_STATUSES } from '@zaguan/core/slots';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';

const read = { access: { kind: 'role', action: 'fhir.read' }, answers: 'fhir' } as const;
const bundle = z.looseObject({ resourceType: z.literal('Bundle'), type: z.literal('searchset'), total: z.number() });
const count = z.coerce.number().int().min(1).max(1000).default(200);
const actor = z.string().regex(/^(Practitioner|Location|Device)\/[0-9a-f-]{36}$/, { error: 'not-a-reference' });

/** A date search as FHIR R4 has it (§3.1.1.4.6): a prefix, then a date or an instant. */
const dateSearch = z
  .string()
  .regex(/^(eq|ge|gt|le|lt)?\d{4}-\d{2}-\d{2}(T\d{2}:\d{2}(:\d{2}(\.\d{1,3})?)?(Z|[+-]\d{2}:\d{2}))?$/, {
    error: 'not-a-date-search',
  })
  .refine((text) => !Number.isNaN(Date.parse(text.replace(/^[a-z]{2}/, ''))), { error: 'no-such-date' });
/** Twice for both ends, as in `start=ge2026-12-01&start=lt2026-12-08`. */
const dateSearches = z.union([dateSearch, z.array(dateSearch).min(1).max(2)]);

export const readSchedule = defineEndpoint({
  name: 'fhir.readSchedule',
  method: 'get',
  path: '/fhir/Schedule/:id',
  summary: 'One person’s, room’s or device’s hours at one site as a FHIR R4 Schedule.',
  ...read,
  params: z.strictObject({ id: z.uuid() }),
  output: z.looseObject({ resourceType: z.literal('Schedule'), id: z.string() }),
  errors: ['NotFound'],
});

export const searchSchedules = defineEndpoint({
  name: 'fhir.searchSchedules',
  method: 'get',
  path: '/fhir/Schedule',
  summary: 'Schedules, by id or by whose they are, as a searchset.',
  ...read,
  query: z.strictObject({ _id: z.uuid().optional(), actor: actor.optional(), _count: count }),
  output: bundle,
  errors: [],
});

export const readSlot = defineEndpoint({
  name: 'fhir.readSlot',
  method: 'get',
  path: '/fhir/Slot/:id',
  summary: 'One stretch of a schedule in one state, as a FHIR R4 Slot; gone as soon as its state or its ends change.',
  ...read,
  params: z.strictObject({ id: z.string().regex(/^[A-Za-z0-9.-]{1,64}$/, { error: 'not-an-id' }) }),
  output: z.looseObject({ resourceType: z.literal('Slot'), id: z.string() }),
  errors: ['NotFound'],
});

export const searchSlots = defineEndpoint({
  name: 'fhir.searchSlots',
  method: 'get',
  path: '/fhir/Slot',
  summary:
    'Slots of a schedule between two dates (at most 92 days), by status, as a searchset. Without dates: the next seven days.',
  ...read,
  query: z.strictObject({
    _id: z.string().max(64).optional(),
    schedule: z
      .string()
      .regex(/^(Schedule\/)?[0-9a-f-]{36}$/, { error: 'not-a-reference' })
      .optional(),
    start: dateSearches.optional(),
    status: z.enum(SLOT_STATUSES).optional(),
    _count: count,
  }),
  output: bundle,
  errors: ['NotFound'],
});
