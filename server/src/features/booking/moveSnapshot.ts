import { type InputOf, toWire } from '@zaguan/contracts';
import type { moveSnapshot as contract } from '@zaguan/contracts/booking';
import { snapshotForMove } from '@zaguan/core/booking';
import { partsFor, withAccess } from '@zaguan/core/findTime';
import { ClinicStore, type SearchCriteria } from '@zaguan/core/openings';
import type { Part } from '@zaguan/core/visits';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { Appointment } from '../../schema/index.ts';
import { siteRows } from '../clinic/index.ts';
import { loadSnapshot } from '../openings/index.ts';
import { needsOfVisit } from '../people/index.ts';
import { appointmentRow } from './booking.repository.ts';

/** What a move of a visit asks the search: by the desk's rules, its own time being free. */
export function criteriaOfMove(
  visit: Pick<Appointment, 'id' | 'visitTypeId' | 'patientKind' | 'patientId'>,
  parts: readonly Part[] | null,
): SearchCriteria {
  return {
    visitTypeId: visit.visitTypeId,
    parts,
    kind: visit.patientKind,
    channel: 'desk',
    patientId: visit.patientId,
    ignoreVisitId: visit.id,
  };
}

/** Everything that decides where a visit could be on a date, for a browser that judges each place without asking. */
export async function moveSnapshot(
  ctx: Ctx,
  { id, date }: InputOf<typeof contract>,
): Promise<AnswerOf<typeof contract>> {
  const visit = await appointmentRow(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'appointment.move', visit.siteId)) return ctx.fail('NotAllowed');
  if (visit.status !== 'booked' && visit.status !== 'pending')
    return ctx.fail('WrongStatus', { facts: { from: visit.status, to: 'booked' } });
  const needs = await needsOfVisit(ctx.em, id);
  const loaded = await loadSnapshot(ctx.em, { from: date, until: date }, ctx.now);
  const store = withAccess(new ClinicStore(loaded), needs.access);
  const type = store.plan.visitTypes.find((each) => each.id === visit.visitTypeId);
  // A type that was archived since can't be looked for.
  if (!type) return ctx.fail('NotFound');
  const parts = partsFor(type, visit.parts, needs.extraMin);
  const sites = (await siteRows(ctx.em)).map((site) => site.id);
  const { occupied, visits } = loaded;
  return {
    date,
    now: toWire(nowMinute(ctx)),
    visit: {
      visitTypeId: visit.visitTypeId,
      kind: visit.patientKind,
      patientId: visit.patientId,
      parts: parts as never,
    },
    siteIds: sites.filter((site) => coversSite(ctx, 'appointment.move', site)),
    waiveAt: sites.filter((site) => coversSite(ctx, 'appointment.book-against-rules', site)),
    snapshot: snapshotForMove({ ...store.plan, occupied, visits }, criteriaOfMove(visit, parts), date),
  };
}
