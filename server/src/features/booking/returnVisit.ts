import type { OccupancyRow } from '@zaguan/core/booking';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { findRow } from '../../platform/db/read.ts';
import { AppointmentEntity } from '../../schema/index.ts';
import { planForVisitToMove } from '../messages/index.ts';
import { freeTime, updateAppointment } from './booking.repository.ts';
import { insertOccupancy, occupancyOf } from './booking.sql.ts';
import { openForDesk } from './changeStatus.ts';

const FIELDS = [
  'siteId',
  'providerId',
  'siteDate',
  'startsAt',
  'endsAt',
  'providerStartsAt',
  'providerEndsAt',
  'confirmedAt',
] as const;

/** When, where and with what a visit was booked, whole; instants as text, so that an undo can keep it. */
export interface BookedPlace {
  readonly siteId: string;
  readonly providerId: string | null;
  readonly siteDate: string;
  readonly startsAt: string;
  readonly endsAt: string;
  readonly providerStartsAt: string;
  readonly providerEndsAt: string;
  readonly confirmedAt: string | null;
  readonly occupancy: readonly OccupancyRow[];
}

/** Where a visit stands now; `null` if there is none. */
export async function bookedPlaceOf(em: SqlEntityManager, id: string): Promise<BookedPlace | null> {
  const row = await findRow(em, AppointmentEntity, { id }, { fields: [...FIELDS] });
  if (!row) return null;
  const { siteId, providerId, siteDate } = row;
  return {
    siteId,
    providerId,
    siteDate,
    startsAt: row.startsAt.toISOString(),
    endsAt: row.endsAt.toISOString(),
    providerStartsAt: row.providerStartsAt.toISOString(),
    providerEndsAt: row.providerEndsAt.toISOString(),
    confirmedAt: row.confirmedAt?.toISOString() ?? null,
    occupancy: await occupancyOf(em, id),
  };
}

/**
 * Puts a visit back where it was though its hours, room or person are gone there: the inverse of moving it away for that
 * very reason. It waits on the list of visits to move then, and its patient hears that a new time is looked for. What
 * somebody else has taken since stays theirs: the database refuses the second booking.
 */
export async function returnVisit(
  ctx: Ctx,
  { id, version, was }: { id: string; version: number; was: BookedPlace },
): Promise<{ version: number } | Failure<'NotFound' | 'NotAllowed' | 'ChangedMeanwhile' | 'WrongStatus'>> {
  const visit = await openForDesk(ctx, id, version, 'appointment.move');
  if (visit instanceof Failure) return visit;
  if (!coversSite(ctx, 'appointment.move', was.siteId)) return ctx.fail('NotAllowed');
  if (visit.status !== 'booked' && visit.status !== 'pending')
    return ctx.fail('WrongStatus', { facts: { from: visit.status, to: 'booked' } });
  await freeTime(ctx.em, id);
  await insertOccupancy(ctx.em, id, was.occupancy, ctx.now);
  const { siteId, providerId, siteDate } = was;
  const changed = await updateAppointment(
    ctx.em,
    visit,
    {
      siteId,
      providerId,
      siteDate,
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
