import { APPOINTMENT_STATUSES } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import {
  anyOf,
  bundle,
  commonSearch,
  dateSearches,
  fhirRead,
  pageAfter,
  references,
  resource,
  typedReferences,
} from './search.ts';

const read = { ...fhirRead, readsPatients: true } as const;

export const readAppointment = defineEndpoint({
  name: 'fhir.readAppointment',
  method: 'get',
  path: '/fhir/Appointment/:id',
  summary: 'One visit as a FHIR R4 Appointment.',
  ...read,
  params: z.strictObject({ id: z.uuid() }),
  output: resource('Appointment'),
  errors: ['NotFound'],
});

export const searchAppointments = defineEndpoint({
  name: 'fhir.searchAppointments',
  method: 'get',
  path: '/fhir/Appointment',
  summary: 'Visits as a searchset, in the order of their starts. Dates without a time are those of the site’s clock.',
  ...read,
  query: z.strictObject({
    _id: anyOf(z.uuid()).optional(),
    date: dateSearches.optional(),
    status: anyOf(z.enum(APPOINTMENT_STATUSES)).optional(),
    patient: references('Patient').optional(),
    practitioner: references('Practitioner').optional(),
    location: references('Location').optional(),
    actor: typedReferences('Patient', 'Practitioner', 'Location', 'HealthcareService').optional(),
    _lastUpdated: dateSearches.optional(),
    ...commonSearch,
    _page: pageAfter.optional(),
  }),
  output: bundle,
  errors: [],
});

export const readEncounter = defineEndpoint({
  name: 'fhir.readEncounter',
  method: 'get',
  path: '/fhir/Encounter/:id',
  summary: 'What check-in made, as a FHIR R4 Encounter.',
  ...read,
  params: z.strictObject({ id: z.uuid() }),
  output: resource('Encounter'),
  errors: ['NotFound'],
});

export const searchEncounters = defineEndpoint({
  name: 'fhir.searchEncounters',
  method: 'get',
  path: '/fhir/Encounter',
  summary: 'Encounters as a searchset, in the order of their beginnings.',
  ...read,
  query: z.strictObject({
    _id: anyOf(z.uuid()).optional(),
    appointment: references('Appointment').optional(),
    patient: references('Patient').optional(),
    date: dateSearches.optional(),
    status: anyOf(z.enum(['arrived', 'finished', 'cancelled'])).optional(),
    _lastUpdated: dateSearches.optional(),
    ...commonSearch,
    _page: pageAfter.optional(),
  }),
  output: bundle,
  errors: [],
});
