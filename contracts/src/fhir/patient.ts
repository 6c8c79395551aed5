import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { anyOf, bundle, commonSearch, fhirRead, resource } from './search.ts';

const read = { ...fhirRead, readsPatients: true } as const;

export const readPatient = defineEndpoint({
  name: 'fhir.readPatient',
  method: 'get',
  path: '/fhir/Patient/:id',
  summary: 'One person’s record as a FHIR R4 Patient. A restricted one is there for those who may open it.',
  ...read,
  params: z.strictObject({ id: z.uuid() }),
  output: resource('Patient'),
  errors: ['NotFound'],
});

export const searchPatients = defineEndpoint({
  name: 'fhir.searchPatients',
  method: 'get',
  path: '/fhir/Patient',
  summary:
    'Records by their ids, as a searchset. Nothing that tells who somebody is may stand in an address, so nobody is searched for by name.',
  ...read,
  query: z.strictObject({ _id: anyOf(z.uuid()), ...commonSearch }),
  output: bundle,
  errors: [],
});
