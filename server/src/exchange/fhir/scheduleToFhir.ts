import { createHash } from 'node:crypto';
import type { Slot as CoreSlot } from '@zaguan/core/slots';
import type { Schedule, Slot } from 'fhir/r4.js';
import { type CodedService, serviceType } from './systems.ts';

/** A resource at a site: what has hours of its own. */
export interface FhirLane {
  readonly resourceId: string;
  readonly siteId: string;
  readonly name: string;
  readonly kind: 'provider' | 'staff' | 'room' | 'equipment';
  readonly siteName: string;
}

/** The id of a lane's schedule: made of whose and where, so that it stays the same for ever and is kept nowhere. */
export function scheduleId({ resourceId, siteId }: Pick<FhirLane, 'resourceId' | 'siteId'>): string {
  const hex = createHash('sha256').update(`schedule:${resourceId}:${siteId}`).digest('hex').slice(0, 32);
  // A UUID of one's own making (version 8, RFC 9562 §5.8).
  return hex.replace(/^(.{8})(.{4}).(.{3}).(.{3})(.{12})$/, '$1-$2-8$3-8$4-$5');
}

const ACTOR = { provider: 'Practitioner', staff: 'Practitioner', room: 'Location', equipment: 'Device' } as const;

export function actorOf(lane: FhirLane): string {
  return `${ACTOR[lane.kind]}/${lane.resourceId}`;
}

/** Hours at one site as a Schedule (HL7 FHIR R4 4.0.1): whose they are, where, and for which kinds of visit. */
export function toSchedule(lane: FhirLane, services: readonly CodedService[], base: string): Schedule {
  return {
    resourceType: 'Schedule',
    id: scheduleId(lane),
    active: true,
    serviceType: services.map((service) => serviceType(service, base)),
    actor: [
      { reference: actorOf(lane), display: lane.name },
      { reference: `Location/${lane.siteId}`, display: lane.siteName },
      ...services.map(({ id, name }) => ({ reference: `HealthcareService/${id}`, display: name })),
    ],
  };
}

/** A slot's id tells its schedule, its ends and its state, so that it can be read again. */
export function slotId(schedule: string, { start, end, status }: CoreSlot): string {
  return `${schedule.replaceAll('-', '').slice(0, 24)}.${start}.${end - start}.${status.replace('busy-', 'b-')}`;
}

/** The start (epoch minutes) a slot's id speaks of, and the beginning of its schedule's; `null` for no slot's id. */
export function readSlotId(id: string): { schedule: string; start: number } | null {
  const parts = /^([0-9a-f]{24})\.(\d{1,9})\.(\d{1,4})\.(free|busy|b-tentative|b-unavailable)$/.exec(id);
  return parts ? { schedule: parts[1], start: Number(parts[2]) } : null;
}

/** A stretch of hours in one state as a Slot (HL7 FHIR R4 4.0.1); times in UTC. */
export function toSlot(schedule: string, slot: CoreSlot, services: readonly CodedService[], base: string): Slot {
  return {
    resourceType: 'Slot',
    id: slotId(schedule, slot),
    serviceType: services.map((service) => serviceType(service, base)),
    schedule: { reference: `Schedule/${schedule}` },
    status: slot.status,
    start: new Date(slot.start * 60_000).toISOString(),
    end: new Date(slot.end * 60_000).toISOString(),
  };
}
