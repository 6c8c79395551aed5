import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { anyOf, bundle, commonSearch, dateSearches, fhirRead, references, resource } from './search.ts';

const read = { ...fhirRead, readsPatients: true } as const;

/** What a request to book can be for FHIR (request-status, http://hl7.org/fhir/R4/valueset-request-status.html). */
export const REQUEST_STATUSES = ['active', 'revoked', 'completed'] as const;

export const readServiceRequest = defineEndpoint({
  name: 'fhir.readServiceRequest',
  method: 'get',
  path: '/fhir/ServiceRequest/:id',
  summary: 'A request to book as a FHIR R4 ServiceRequest.',
  ...read,
  params: z.strictObject({ id: z.uuid() }),
  output: resource('ServiceRequest'),
  errors: ['NotFound'],
});

export const searchServiceRequests = defineEndpoint({
  name: 'fhir.searchServiceRequests',
  method: 'get',
  path: '/fhir/ServiceRequest',
  summary: 'Requests to book, as a searchset.',
  ...read,
  query: z.strictObject({
    _id: anyOf(z.uuid()).optional(),
    patient: references('Patient').optional(),
    subject: references('Patient').optional(),
    status: anyOf(z.enum(REQUEST_STATUSES)).optional(),
    authored: dateSearches.optional(),
    ...commonSearch,
  }),
  output: bundle,
  errors: [],
});
