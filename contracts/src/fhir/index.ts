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
