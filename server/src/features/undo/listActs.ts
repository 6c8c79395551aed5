import type { OutputOf } from '@zaguan/contracts';
import { type listActs as listContract, MOST_ACTS } from '@zaguan/contracts/undo';
import { familyFirst, restrictedName } from '@zaguan/core/patients';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import { allInverses } from '../../platform/undo/undo.ts';
import { hiddenVisits } from '../restricted/index.ts';
import { visitsAmong } from './undo.repository.ts';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** The ids that an inverse is about, whatever they are called there. */
function idsIn(input: Record<string, unknown>): string[] {
  return [input.id, input.appointmentId].filter(
    (value): value is string => typeof value === 'string' && UUID.test(value),
  );
}

/** What the caller did and may still take back, with the visit that it was about where the caller may see it. */
export async function listActs(ctx: Ctx): Promise<OutputOf<typeof listContract>> {
  if (ctx.actor.kind !== 'staff') return { acts: [] };
  const rows = await allInverses(ctx.em, ctx.actor.accountId, ctx.now, MOST_ACTS);
  const found = await visitsAmong(ctx.em, [...new Set(rows.flatMap(({ input }) => idsIn(input)))]);
  const visits = new Map(
    found.filter(({ siteId }) => coversSite(ctx, 'daybook.view', siteId)).map((visit) => [visit.id, visit]),
  );
  const hidden = await hiddenVisits(ctx, [...visits.keys()]);
  ctx.viewed([...visits.values()].flatMap(({ id, patientId }) => (hidden.has(id) ? [] : (patientId ?? []))));
  const shown = (id: string) => {
    const visit = visits.get(id);
    if (!visit) return null;
    const { patient, site, siteDate: date, startsAt } = visit;
    const nameOf = hidden.has(id) ? restrictedName : familyFirst;
    const name = patient ? nameOf(patient.givenName, patient.familyName) : '';
    return { id, date, start: startsAt.toISOString(), timeZone: site?.timeZone ?? 'UTC', patient: name };
  };
  return {
    acts: rows
      .filter(({ label }) => label.redo === undefined)
      .map(({ id, label, input, createdAt }) => ({
        ...{ id, what: label.what ?? '', at: createdAt.toISOString() },
        visit: idsIn(input).flatMap((each) => shown(each) ?? [])[0] ?? null,
      })),
  };
}
