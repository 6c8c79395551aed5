import * as contract from '@zaguan/contracts/fhir';
import { toAppointment, toEncounter, toSearchset } from '../../exchange/fhir/visitToFhir.ts';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { hiddenVisits } from '../restricted/index.ts';
import { clinicFhirEndpoints } from './clinicResources.ts';
import { scheduleEndpoints } from './schedules.ts';
import { fhirEncounter, fhirVisit, fhirVisitsOn } from './fhir.sql.ts';

/** The wire schema lets a resource through as it is; its type comes from the standard's own definitions. */
const asWire = <T extends object>(resource: T) => resource as T & Record<string, unknown>;

interface OfPatient {
  readonly id: string;
  readonly appointmentId?: string;
  readonly patient: { readonly id: string | null; readonly name: string };
}

/** Visits as the caller may see them: of whom they may not see, without the name. Each look is logged. */
async function seen<T extends OfPatient>(ctx: Ctx, rows: readonly T[]): Promise<T[]> {
  const idOf = (row: T) => row.appointmentId ?? row.id;
  const hidden = await hiddenVisits(ctx, rows.map(idOf));
  ctx.viewed(rows.flatMap((row) => (row.patient.id && !hidden.has(idOf(row)) ? [row.patient.id] : [])));
  return rows.map((row) =>
    hidden.has(idOf(row)) ? { ...row, patient: { ...row.patient, name: 'Restricted' }, reason: '' } : row,
  );
}

export const fhirEndpoints = [
  handle(contract.readAppointment, async (ctx, { id }) => {
    const visit = await fhirVisit(ctx.em, id);
    if (!visit) return ctx.fail('NotFound');
    const [shown] = await seen(ctx, [visit]);
    return { ...asWire(toAppointment(shown)), id };
  }),
  handle(contract.searchAppointments, async (ctx, { date, status, _count }) => {
    const { visits, total } = await fhirVisitsOn(ctx.em, date, status ?? null, _count);
    const shown = await seen(ctx, visits);
    return { ...asWire(toSearchset(shown.map(toAppointment), total)), type: 'searchset' as const, total };
  }),
  handle(contract.readEncounter, async (ctx, { id }) => {
    const encounter = await fhirEncounter(ctx.em, { id });
    if (!encounter) return ctx.fail('NotFound');
    const [shown] = await seen(ctx, [encounter]);
    return { ...asWire(toEncounter(shown)), id };
  }),
  handle(contract.searchEncounters, async (ctx, { appointment }) => {
    const found = await fhirEncounter(ctx.em, { appointmentId: appointment.replace('Appointment/', '') });
    const shown = await seen(ctx, found ? [found] : []);
    const total = shown.length;
    return { ...asWire(toSearchset(shown.map(toEncounter), total)), type: 'searchset' as const, total };
  }),
  ...clinicFhirEndpoints,
  ...scheduleEndpoints,
];
