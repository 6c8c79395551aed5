import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { planForVisitToMove } from '../messages/index.ts';
import { type BookedPlace, freeTime, overrideOf, updateAppointment } from './booking.repository.ts';
import { insertOccupancy } from './booking.sql.ts';
import { openForDesk } from './changeStatus.ts';

/**
 * Puts a visit back where it was though its hours, room or person are gone there: the inverse of moving it away for that
 * very reason. It waits on the list of visits to move then, and its patient hears that a new time is looked for. What
 * somebody else has taken since stays theirs: the database refuses the second booking.
 */
export async function returnVisit(
  ctx: Ctx,
  { id, version, was }: { id: string; version: number; was: BookedPlace },
): Promise<
  { version: number } | Failure<'NotFound' | 'NotAllowed' | 'ChangedMeanwhile' | 'WrongStatus' | 'NotOffered'>
> {
  const visit = await openForDesk(ctx, id, version, 'appointment.move');
  if (visit instanceof Failure) return visit;
  if (!coversSite(ctx, 'appointment.move', was.siteId)) return ctx.fail('NotAllowed');
  if (visit.status !== 'booked' && visit.status !== 'pending')
    return ctx.fail('WrongStatus', { facts: { from: visit.status, to: 'booked' } });
  // Nobody can come to a time that is over; the visit stays where it was moved to.
  if (new Date(was.startsAt) <= ctx.now) return ctx.fail('NotOffered', { codes: ['past'] });
  await freeTime(ctx.em, id);
  const { siteId, providerId, siteDate, parts, rulesWaived } = was;
  await insertOccupancy(ctx.em, id, was.occupancy, ctx.now, await overrideOf(ctx.em, { id, rulesWaived }));
  const changed = await updateAppointment(
    ctx.em,
    visit,
    {
      siteId,
      providerId,
      siteDate,
      parts,
      rulesWaived,
      startsAt: new Date(was.startsAt),
      endsAt: new Date(was.endsAt),
      providerStartsAt: new Date(was.providerStartsAt),
      providerEndsAt: new Date(was.providerEndsAt),
      // Agreed to before it was moved, and so again.
      confirmedAt: was.confirmedAt === null ? null : new Date(was.confirmedAt),
      icalSequence: visit.icalSequence + 1,
    },
    ctx.now,
  );
  await planForVisitToMove(ctx, id);
  for (const day of new Set([`${visit.siteId} ${visit.siteDate}`, `${siteId} ${siteDate}`])) {
    const [at, on] = day.split(' ');
    ctx.emit({ type: 'visit-changed', siteId: at, date: on });
  }
  ctx.wrote({
    subjects: [{ kind: 'appointment', id }],
    before: { siteId: visit.siteId, startsAt: visit.startsAt.toISOString(), providerId: visit.providerId },
    after: { siteId, startsAt: was.startsAt, providerId },
  });
  return { version: changed.version };
}
