import type { InputOf, OutputOf } from '@zaguan/contracts';
import { patientRecord } from '@zaguan/contracts/patients';
import { fullName } from '@zaguan/core/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { contactRows, patientRow, trailRows, visitRowsOf } from './patients.repository.ts';

const OPENS_RESTRICTED = new Set(['manager', 'coordinator']);
const wire = (text: string) => new Date(text).toISOString();

async function show(
  ctx: Ctx,
  { id }: InputOf<typeof patientRecord>,
): Promise<OutputOf<typeof patientRecord> | Failure> {
  const row = await patientRow(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (row.restricted && !(ctx.actor.kind === 'staff' && OPENS_RESTRICTED.has(ctx.actor.role)))
    return ctx.fail('NotAllowed');
  ctx.viewed([id]);
  const visits = await visitRowsOf(ctx.em, id);
  const trail = await trailRows(
    ctx.em,
    id,
    visits.map((visit) => visit.id),
  );
  return {
    record: {
      id: row.id,
      recordNumber: row.record_number,
      name: fullName(row.given_name, row.family_name),
      preferredName: row.preferred_name,
      birthDate: row.birth_date,
      sex: row.sex,
      language: row.language,
      status: row.status,
      restricted: row.restricted,
      contacts: (await contactRows(ctx.em, id)).map(({ value, opted_out }) => ({ value, optedOut: opted_out })),
      visits: visits.map((visit) => ({
        id: visit.id,
        date: visit.site_date,
        start: wire(visit.starts_at),
        timeZone: visit.time_zone,
        siteName: visit.site,
        visitType: visit.visit_type,
        provider: visit.provider,
        status: visit.status,
        origin: visit.origin,
        reason: visit.reason,
        coming: new Date(visit.ends_at) > ctx.now,
      })),
      trail: trail.map((entry) => ({
        at: wire(entry.at),
        kind: entry.kind,
        command: entry.command,
        actor: entry.actor_kind,
        by: entry.by,
      })),
    },
  };
}

export const patientsEndpoints = [handle(patientRecord, show)];
