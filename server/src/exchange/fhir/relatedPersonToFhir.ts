import type { RelatedPerson } from 'fhir/r4.js';

/** A relationship as far as FHIR needs it. */
export interface FhirRelatedPerson {
  readonly id: string;
  readonly patientId: string;
  readonly name: string;
  readonly kind: string;
  readonly fromDate: string;
  readonly untilDate: string | null;
  /** Whether it gives any right today. */
  readonly active: boolean;
}

/** HL7 v3 RoleCode (http://terminology.hl7.org/CodeSystem/v3-RoleCode, codes from memory); others are said in words alone. */
const ROLE_CODE: Readonly<Record<string, string>> = {
  parent: 'PRN',
  guardian: 'GUARD',
  'step-parent': 'STPPRN',
  'foster-parent': 'PRNFOST',
  spouse: 'SPS',
  child: 'CHILD',
};

/** Somebody who may act for a patient as a RelatedPerson (HL7 FHIR R4 4.0.1). */
export function toRelatedPerson(person: FhirRelatedPerson): RelatedPerson {
  const code = ROLE_CODE[person.kind];
  return {
    resourceType: 'RelatedPerson',
    id: person.id,
    active: person.active,
    patient: { reference: `Patient/${person.patientId}` },
    relationship: [
      {
        ...(code && { coding: [{ system: 'http://terminology.hl7.org/CodeSystem/v3-RoleCode', code }] }),
        text: person.kind,
      },
    ],
    name: [{ text: person.name }],
    period: { start: person.fromDate, ...(person.untilDate && { end: person.untilDate }) },
  };
}
