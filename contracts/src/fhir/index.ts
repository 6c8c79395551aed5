import { APPOINTMENT_STATUSES } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { localDate } from '../wire.ts';

/** FHIR R4 resources leave as the standard has them; here stands only what they are. */
const resource = <T extends string>(type: T) => z.looseObject({ resourceType: z.literal(type), id: z.string() });
const bundle = z.looseObject({ resourceType: z.literal('Bundle'), type: z.literal('searchset'), total: z.number() });
const read = { access: { kind: 'role', action: 'fhir.read' }, answers: 'fhir', readsPatients: true } as const;
const reference = (type: string) =>
  z.string().regex(new RegExp(`^(${type}/)?[0-9a-f-]{36}$`), { error: 'not-a-reference' });

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
  summary: 'Visits of a date (by the site’s clock), as a searchset.',
  ...read,
  query: z.strictObject({
    date: localDate,
    status: z.enum(APPOINTMENT_STATUSES).optional(),
    _count: z.coerce.number().int().min(1).max(500).default(100),
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
  summary: 'The encounter of a visit, as a searchset.',
  ...read,
  query: z.strictObject({ appointment: reference('Appointment') }),
  output: bundle,
  errors: [],
});

/** What the clinic is made of: nobody's record is read. */
export const CLINIC_RESOURCES = ['Location', 'Practitioner', 'PractitionerRole', 'HealthcareService'] as const;
export type ClinicResource = (typeof CLINIC_RESOURCES)[number];

const clinicRead = { access: { kind: 'role', action: 'fhir.read' }, answers: 'fhir' } as const;

/** Reading and searching of one kind of the clinic's resources; archived ones are found by id and marked inactive. */
function clinicEndpoints<T extends ClinicResource>(type: T, of: string) {
  return {
    read: defineEndpoint({
      name: `fhir.read${type}`,
      method: 'get',
      path: `/fhir/${type}/:id`,
      summary: `${of} as a FHIR R4 ${type}.`,
      ...clinicRead,
      params: z.strictObject({ id: z.uuid() }),
      output: resource(type),
      errors: ['NotFound'],
    }),
    search: defineEndpoint({
      name: `fhir.search${type}`,
      method: 'get',
      path: `/fhir/${type}`,
      summary: `${of}, as a searchset.`,
      ...clinicRead,
      query: z.strictObject({
        _id: z.uuid().optional(),
        name: z.string().max(100).optional(),
        active: z.enum(['true', 'false']).optional(),
        _count: z.coerce.number().int().min(1).max(500).default(100),
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
export * from './schedule.ts';
