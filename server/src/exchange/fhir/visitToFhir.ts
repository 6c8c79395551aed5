import type { AppointmentStatus, CancelReason } from '@zaguan/core/visits';
import type { Appointment, AppointmentParticipant, Encounter } from 'fhir/r4.js';
import { type CodedService, serviceType, systemsOf } from './systems.ts';
import { metaOf, type Versioned } from './versions.ts';

export interface FhirVisit extends Versioned {
  readonly id: string;
  readonly status: AppointmentStatus;
  readonly start: Date;
  readonly end: Date;
  readonly created: Date;
  readonly service: CodedService;
  readonly reason: string;
  readonly cancelReason: CancelReason | null;
  readonly confirmed: boolean;
  readonly patient: { readonly id: string | null; readonly name: string };
  readonly provider: { readonly id: string; readonly name: string } | null;
  readonly site: { readonly id: string; readonly name: string };
}

/** http://terminology.hl7.org/CodeSystem/appointment-cancellation-reason (codes from memory). */
const CANCELLED_BECAUSE: Record<CancelReason, string> = {
  'patient-asked': 'pat',
  'provider-away': 'prov',
  'site-closed': 'other',
  'not-genuine': 'other',
  declined: 'prov',
  died: 'pat-dec',
  'booked-wrongly': 'other',
  'to-be-rebooked': 'other',
  other: 'other',
};

/**
 * A visit as an Appointment (HL7 FHIR R4 4.0.1). A person who is not known yet has a name but no reference. Invariants
 * app-1 to app-4 hold by construction: every participant has an actor, start and end are always both there, and a
 * reason for cancelling only beside the status cancelled.
 */
export function toAppointment(visit: FhirVisit, base: string): Appointment {
  const participant = (actor: AppointmentParticipant['actor'], accepted: boolean): AppointmentParticipant => ({
    actor,
    required: 'required',
    status: accepted ? 'accepted' : 'needs-action',
  });
  return {
    resourceType: 'Appointment',
    id: visit.id,
    ...metaOf(visit),
    identifier: [{ system: systemsOf(base).visit, value: visit.id }],
    status: visit.status,
    ...(visit.status === 'cancelled' &&
      visit.cancelReason && {
        cancelationReason: {
          coding: [
            {
              system: 'http://terminology.hl7.org/CodeSystem/appointment-cancellation-reason',
              code: CANCELLED_BECAUSE[visit.cancelReason],
            },
          ],
          text: visit.cancelReason,
        },
      }),
    serviceType: [serviceType(visit.service, base)],
    ...(visit.reason && { reasonCode: [{ text: visit.reason }] }),
    start: visit.start.toISOString(),
    end: visit.end.toISOString(),
    minutesDuration: Math.round((visit.end.getTime() - visit.start.getTime()) / 60_000),
    created: visit.created.toISOString(),
    participant: [
      participant(
        visit.patient.id
          ? { reference: `Patient/${visit.patient.id}`, display: visit.patient.name }
          : { display: visit.patient.name },
        visit.confirmed,
      ),
      ...(visit.provider
        ? [participant({ reference: `Practitioner/${visit.provider.id}`, display: visit.provider.name }, true)]
        : []),
      participant({ reference: `Location/${visit.site.id}`, display: visit.site.name }, true),
      participant({ reference: `HealthcareService/${visit.service.id}`, display: visit.service.name }, true),
    ],
  };
}

/** Its version is its visit's: nothing changes it but what changes that too. */
export interface FhirEncounter extends Versioned {
  readonly id: string;
  readonly status: 'arrived' | 'finished' | 'cancelled';
  readonly appointmentId: string;
  readonly patient: { readonly id: string; readonly name: string };
  readonly provider: { readonly id: string; readonly name: string } | null;
  readonly site: { readonly id: string; readonly name: string };
  readonly start: Date;
  readonly end: Date | null;
}

/** What check-in made, as an Encounter (HL7 FHIR R4 4.0.1), of the class ambulatory. */
export function toEncounter(encounter: FhirEncounter): Encounter {
  return {
    resourceType: 'Encounter',
    id: encounter.id,
    ...metaOf(encounter),
    status: encounter.status,
    class: { system: 'http://terminology.hl7.org/CodeSystem/v3-ActCode', code: 'AMB', display: 'ambulatory' },
    subject: { reference: `Patient/${encounter.patient.id}`, display: encounter.patient.name },
    ...(encounter.provider && {
      participant: [
        { individual: { reference: `Practitioner/${encounter.provider.id}`, display: encounter.provider.name } },
      ],
    }),
    appointment: [{ reference: `Appointment/${encounter.appointmentId}` }],
    period: { start: encounter.start.toISOString(), ...(encounter.end && { end: encounter.end.toISOString() }) },
    location: [{ location: { reference: `Location/${encounter.site.id}`, display: encounter.site.name } }],
  };
}
