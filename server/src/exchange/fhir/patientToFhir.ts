import type { ContactPoint, Patient } from 'fhir/r4.js';
import { systemsOf } from './systems.ts';

/** A record as far as FHIR needs it. */
export interface FhirPatient {
  readonly id: string;
  readonly version: number;
  readonly recordNumber: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly preferredName: string | null;
  readonly birthDate: string;
  readonly sex: 'female' | 'male' | 'other' | 'unknown' | null;
  readonly language: 'en' | 'es';
  readonly status: 'new' | 'active' | 'inactive' | 'deceased' | 'archived';
  readonly deceasedOn: string | null;
  readonly street: string;
  readonly city: string;
  readonly region: string;
  readonly postalCode: string;
  readonly formerNames: readonly { readonly givenName: string; readonly familyName: string }[];
  readonly contacts: readonly { readonly kind: 'phone' | 'email'; readonly value: string }[];
}

const hasAddress = ({ street, city, region, postalCode }: FhirPatient) =>
  Boolean(street || city || region || postalCode);

/** A person's record as a Patient (HL7 FHIR R4 4.0.1). When it was changed last is kept nowhere, so it is not said. */
export function toPatient(patient: FhirPatient, base: string): Patient {
  return {
    resourceType: 'Patient',
    id: patient.id,
    meta: { versionId: String(patient.version) },
    identifier: [{ use: 'usual', system: systemsOf(base).recordNumber, value: patient.recordNumber }],
    active: patient.status === 'new' || patient.status === 'active',
    name: [
      {
        use: 'official',
        text: [patient.givenName, patient.familyName].filter(Boolean).join(' '),
        family: patient.familyName,
        given: [patient.givenName],
      },
      ...(patient.preferredName ? [{ use: 'usual' as const, given: [patient.preferredName] }] : []),
      ...patient.formerNames.map(({ givenName, familyName }) => ({
        use: 'old' as const,
        family: familyName || patient.familyName,
        given: [givenName || patient.givenName],
      })),
    ],
    telecom: patient.contacts.map(({ kind, value }, rank): ContactPoint => ({ system: kind, value, rank: rank + 1 })),
    ...(patient.sex && { gender: patient.sex }),
    birthDate: patient.birthDate,
    ...(patient.status === 'deceased' &&
      (patient.deceasedOn ? { deceasedDateTime: patient.deceasedOn } : { deceasedBoolean: true })),
    ...(hasAddress(patient) && {
      address: [{ line: [patient.street], city: patient.city, state: patient.region, postalCode: patient.postalCode }],
    }),
    communication: [{ language: { coding: [{ system: 'urn:ietf:bcp:47', code: patient.language }] }, preferred: true }],
  };
}
