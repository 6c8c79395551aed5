import type { CodeableConcept } from 'fhir/r4.js';

/**
 * Where this clinic's own numbers and codes come from: each is unique below its system, and the system belongs to this
 * installation, so that two clinics' visit types are never taken for one.
 */
export const systemsOf = (base: string) => ({
  site: `${base}/sid/site`,
  visitType: `${base}/sid/visit-type`,
  recordNumber: `${base}/sid/record-number`,
  visit: `${base}/sid/visit`,
  license: (region: string) => `${base}/sid/license-us-${region.toLowerCase()}`,
});

/** A visit type as a code of the clinic's own. */
export interface CodedService {
  readonly id: string;
  readonly code: string;
  readonly name: string;
}

export function serviceType({ code, name }: CodedService, base: string): CodeableConcept {
  return { coding: [{ system: systemsOf(base).visitType, code, display: name }], text: name };
}
