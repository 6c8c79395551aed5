import * as contract from '@zaguan/contracts/fhir';
import { toAppointment, toEncounter, toSearchset } from '../../exchange/fhir/visitToFhir.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { clinicFhirEndpoints } from './clinicResources.ts';
import { scheduleEndpoints } from './schedules.ts';
import { fhirEncounter, fhirVisit, fhirVisitsOn } from './fhir.repository.ts';

/** The wire schema lets a resource through as it is; its type comes from the standard's own definitions. */
const asWire = <T extends object>(resource: T) => resource as T & Record<string, unknown>;

export const fhirEndpoints = [
  handle(contract.readAppointment, async (ctx, { id }) => {
    const visit = await fhirVisit(ctx.em, id);
    if (!visit) return ctx.fail('NotFound');
    if (visit.patient.id) ctx.viewed([visit.patient.id]);
    return { ...asWire(toAppointment(visit)), id };
  }),
  handle(contract.searchAppointments, async (ctx, { date, status, _count }) => {
    const { visits, total } = await fhirVisitsOn(ctx.em, date, status ?? null, _count);
    ctx.viewed(visits.flatMap(({ patient }) => (patient.id ? [patient.id] : [])));
    return { ...asWire(toSearchset(visits.map(toAppointment), total)), type: 'searchset' as const, total };
  }),
  handle(contract.readEncounter, async (ctx, { id }) => {
    const encounter = await fhirEncounter(ctx.em, { id });
    if (!encounter) return ctx.fail('NotFound');
    ctx.viewed([encounter.patient.id]);
    return { ...asWire(toEncounter(encounter)), id };
  }),
  handle(contract.searchEncounters, async (ctx, { appointment }) => {
    const found = await fhirEncounter(ctx.em, { appointmentId: appointment.replace('Appointment/', '') });
    if (found) ctx.viewed([found.patient.id]);
    const total = found ? 1 : 0;
    return { ...asWire(toSearchset(found ? [toEncounter(found)] : [], total)), type: 'searchset' as const, total };
  }),
  ...clinicFhirEndpoints,
  ...scheduleEndpoints,
];
