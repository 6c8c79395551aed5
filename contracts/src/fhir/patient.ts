import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { anyOf, bundle, commonSearch, dateSearches, fhirRead, references, resource, tokens } from './search.ts';

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

/** Names, numbers and dates of birth stand in the body, so that no log and no history of a browser keeps them (FHIR R4 §3.1.1). */
const inBody = {
  _count: z.coerce.number().int().min(1).max(500).default(100),
  _format: commonSearch._format,
};
const text = z.string().trim().min(1).max(100);

export const findPatients = defineEndpoint({
  name: 'fhir.findPatients',
  method: 'post',
  path: '/fhir/Patient/_search',
  summary:
    'Records by identifier, name, date of birth, phone or e-mail, as a searchset: a search by POST, for nothing that tells who somebody is may stand in an address.',
  ...read,
  body: z.strictObject({
    _id: anyOf(z.uuid()).optional(),
    identifier: tokens.optional(),
    /** Any part of any name, from its beginning. */
    name: text.optional(),
    family: text.optional(),
    given: text.optional(),
    birthdate: dateSearches.optional(),
    telecom: tokens.optional(),
    phone: tokens.optional(),
    email: tokens.optional(),
    ...inBody,
  }),
  output: bundle,
  errors: [],
});

export const readRelatedPerson = defineEndpoint({
  name: 'fhir.readRelatedPerson',
  method: 'get',
  path: '/fhir/RelatedPerson/:id',
  summary: 'Somebody who may act for a patient, as a FHIR R4 RelatedPerson.',
  ...read,
  params: z.strictObject({ id: z.uuid() }),
  output: resource('RelatedPerson'),
  errors: ['NotFound'],
});

export const searchRelatedPersons = defineEndpoint({
  name: 'fhir.searchRelatedPersons',
  method: 'get',
  path: '/fhir/RelatedPerson',
  summary: 'Who may act for some patients, by the patients or by their own ids, as a searchset.',
  ...read,
  query: z
    .strictObject({
      _id: anyOf(z.uuid()).optional(),
      patient: references('Patient').optional(),
      ...commonSearch,
    })
    .refine((search) => search._id || search.patient, { path: ['patient'], error: 'needed' }),
  output: bundle,
  errors: [],
});
