import { SLOT_STATUSES } from '@zaguan/core/slots';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import {
  anyOf,
  bundle,
  commonSearch,
  dateSearches,
  fhirRead,
  references,
  resource,
  typedReferences,
} from './search.ts';

export const readSchedule = defineEndpoint({
  name: 'fhir.readSchedule',
  method: 'get',
  path: '/fhir/Schedule/:id',
  summary: 'One person’s, room’s or device’s hours at one site as a FHIR R4 Schedule.',
  ...fhirRead,
  params: z.strictObject({ id: z.uuid() }),
  output: resource('Schedule'),
  errors: ['NotFound'],
});

export const searchSchedules = defineEndpoint({
  name: 'fhir.searchSchedules',
  method: 'get',
  path: '/fhir/Schedule',
  summary: 'Schedules, by id or by whose they are, as a searchset.',
  ...fhirRead,
  query: z.strictObject({
    _id: anyOf(z.uuid()).optional(),
    actor: typedReferences('Practitioner', 'Location', 'Device', 'HealthcareService').optional(),
    ...commonSearch,
  }),
  output: bundle,
  errors: [],
});

const slotId = z.string().regex(/^[A-Za-z0-9.-]{1,64}$/, { error: 'not-an-id' });

export const readSlot = defineEndpoint({
  name: 'fhir.readSlot',
  method: 'get',
  path: '/fhir/Slot/:id',
  summary: 'One stretch of a schedule in one state, as a FHIR R4 Slot; gone as soon as its state or its ends change.',
  ...fhirRead,
  params: z.strictObject({ id: slotId }),
  output: resource('Slot'),
  errors: ['NotFound'],
});

export const searchSlots = defineEndpoint({
  name: 'fhir.searchSlots',
  method: 'get',
  path: '/fhir/Slot',
  summary:
    'Slots of a schedule between two dates (at most 92 days), by status, as a searchset. Without dates: the next seven days.',
  ...fhirRead,
  query: z.strictObject({
    _id: anyOf(slotId).optional(),
    schedule: references('Schedule').optional(),
    start: dateSearches.optional(),
    status: anyOf(z.enum(SLOT_STATUSES)).optional(),
    ...commonSearch,
  }),
  output: bundle,
  errors: [],
});
