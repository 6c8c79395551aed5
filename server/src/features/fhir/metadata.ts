import { metadata } from '@zaguan/contracts/fhir';
import type { CapabilityStatement } from 'fhir/r4.js';
import { baseOf } from './searching.ts';
import { handle } from '../../platform/endpoint/handler.ts';

type SearchType = 'token' | 'date' | 'reference' | 'string';

const IDS: Record<string, SearchType> = { _id: 'token' };
const CHANGED: Record<string, SearchType> = { ...IDS, _lastUpdated: 'date' };

/** What can be searched by. A test asks the contracts whether it is so. */
const SEARCHES: Record<string, Record<string, SearchType>> = {
  Appointment: {
    ...CHANGED,
    ...{ date: 'date', status: 'token' },
    ...{ patient: 'reference', practitioner: 'reference', location: 'reference', actor: 'reference' },
  },
  Encounter: { ...CHANGED, appointment: 'reference', patient: 'reference', date: 'date', status: 'token' },
  // By POST alone: they tell who somebody is.
  Patient: {
    ...IDS,
    ...{ identifier: 'token', name: 'string', family: 'string', given: 'string', birthdate: 'date' },
    ...{ telecom: 'token', phone: 'token', email: 'token' },
  },
  RelatedPerson: { ...IDS, patient: 'reference' },
  ServiceRequest: { ...IDS, patient: 'reference', subject: 'reference', status: 'token', authored: 'date' },
  Location: { ...CHANGED, name: 'string', identifier: 'token' },
  Practitioner: { ...CHANGED, name: 'string', identifier: 'token', active: 'token' },
  PractitionerRole: { ...CHANGED, active: 'token', practitioner: 'reference', location: 'reference' },
  HealthcareService: { ...CHANGED, name: 'string', identifier: 'token', active: 'token', location: 'reference' },
  Schedule: { ...IDS, actor: 'reference' },
  Slot: { ...IDS, schedule: 'reference', start: 'date', status: 'token' },
};

/** What this server can do (HL7 FHIR R4 4.0.1, CapabilityStatement of kind `instance`). */
function capabilities(base: string, now: Date): CapabilityStatement {
  return {
    resourceType: 'CapabilityStatement',
    status: 'active',
    date: now.toISOString(),
    kind: 'instance',
    software: { name: 'Zaguan' },
    implementation: { description: 'Visits, schedules and the clinic they belong to; reading only.', url: base },
    fhirVersion: '4.0.1',
    format: ['json'],
    rest: [
      {
        mode: 'server',
        security: { cors: false, description: 'A session of an account with the right to read FHIR.' },
        resource: Object.entries(SEARCHES).map(([type, parameters]) => ({
          type: type as 'Appointment',
          interaction: [{ code: 'read' as const }, { code: 'search-type' as const }],
          // Schedule and Slot are made of the hours, and have no version of their own.
          versioning: type === 'Schedule' || type === 'Slot' ? ('no-version' as const) : ('versioned' as const),
          searchParam: Object.entries(parameters).map(([name, kind]) => ({ name, type: kind })),
        })),
      },
    ],
  };
}

export const metadataEndpoint = handle(metadata, async (ctx) => ({ ...capabilities(baseOf(ctx), ctx.now) }));
