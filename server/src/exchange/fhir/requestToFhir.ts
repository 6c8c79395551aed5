import type { Urgency } from '@zaguan/core/booking';
import type { ServiceRequest } from 'fhir/r4.js';
import { type CodedService, serviceType } from './systems.ts';
import { metaOf, type Versioned } from './versions.ts';

export type RequestState = 'open' | 'booked' | 'completed' | 'withdrawn';

export interface FhirRequest extends Versioned {
  readonly id: string;
  readonly state: RequestState;
  readonly urgency: Urgency;
  readonly service: CodedService;
  readonly patient: { readonly id: string; readonly name: string };
  readonly fromDate: string;
  readonly dueDate: string;
  readonly reason: string;
  readonly askedAt: Date;
  readonly askedBy: { readonly resourceId: string | null; readonly name: string };
  readonly provider: { readonly id: string; readonly name: string } | null;
  readonly site: { readonly id: string; readonly name: string } | null;
  readonly withdrawnBecause: string | null;
}

/** Asked for stays active until the visit has taken place (HL7 FHIR R4, request-status). */
export const STATUS_OF: Readonly<Record<RequestState, 'active' | 'completed' | 'revoked'>> = {
  open: 'active',
  booked: 'active',
  completed: 'completed',
  withdrawn: 'revoked',
};

/** A request to book as a ServiceRequest (HL7 FHIR R4 4.0.1). */
export function toServiceRequest(request: FhirRequest, base: string): ServiceRequest {
  const { id, state, patient, provider, site, askedBy } = request;
  return {
    resourceType: 'ServiceRequest',
    id,
    ...metaOf(request),
    status: STATUS_OF[state],
    intent: 'order',
    priority: request.urgency,
    code: serviceType(request.service, base),
    subject: { reference: `Patient/${patient.id}`, display: patient.name },
    occurrencePeriod: { start: request.fromDate, end: request.dueDate },
    authoredOn: request.askedAt.toISOString(),
    requester: {
      ...(askedBy.resourceId && { reference: `Practitioner/${askedBy.resourceId}` }),
      display: askedBy.name,
    },
    ...(provider && { performer: [{ reference: `Practitioner/${provider.id}`, display: provider.name }] }),
    ...(site && { locationReference: [{ reference: `Location/${site.id}`, display: site.name }] }),
    ...(request.reason && { reasonCode: [{ text: request.reason }] }),
    ...(request.withdrawnBecause && { note: [{ text: request.withdrawnBecause }] }),
  };
}
