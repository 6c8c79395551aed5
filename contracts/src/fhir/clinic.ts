import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { anyOf, bundle, commonSearch, dateSearches, fhirRead, references, resource, tokens } from './search.ts';

/** What the clinic is made of: nobody's record is read. */
export const CLINIC_RESOURCES = ['Location', 'Practitioner', 'PractitionerRole', 'HealthcareService'] as const;
export type ClinicResource = (typeof CLINIC_RESOURCES)[number];

/** Reading and searching of one kind of the clinic's resources; archived ones are found by id and marked inactive. */
function clinicEndpoints<T extends ClinicResource>(type: T, of: string) {
  return {
    read: defineEndpoint({
      name: `fhir.read${type}`,
      method: 'get',
      path: `/fhir/${type}/:id`,
      summary: `${of} as a FHIR R4 ${type}.`,
      ...fhirRead,
      params: z.strictObject({ id: z.uuid() }),
      output: resource(type),
      errors: ['NotFound'],
    }),
    search: defineEndpoint({
      name: `fhir.search${type}`,
      method: 'get',
      path: `/fhir/${type}`,
      summary: `${of}, as a searchset.`,
      ...fhirRead,
      query: z.strictObject({
        _id: anyOf(z.uuid()).optional(),
        name: z.string().max(100).optional(),
        identifier: tokens.optional(),
        active: z.enum(['true', 'false']).optional(),
        /** Of a role: whose it is. */
        practitioner: references('Practitioner').optional(),
        /** Of a role or a service: where. */
        location: references('Location').optional(),
        _lastUpdated: dateSearches.optional(),
        ...commonSearch,
      }),
      output: bundle,
      errors: [],
    }),
  };
}

export const clinicResources = {
  Location: clinicEndpoints('Location', 'A site'),
  Practitioner: clinicEndpoints('Practitioner', 'A provider or nurse'),
  PractitionerRole: clinicEndpoints('PractitionerRole', 'Where someone works and what they do there'),
  HealthcareService: clinicEndpoints('HealthcareService', 'A visit type'),
} as const;
