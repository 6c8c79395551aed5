import type { bookAtDesk as bookContract, DeskBooked } from '@zaguan/contracts/desk';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { DeskBooking } from '../../schema/index.ts';
import { toldAbout } from '../messages/index.ts';
import { visitsBooked } from './desk.repository.ts';

/** Booked visits as they stand now. */
export async function shownVisits(ctx: Ctx, ids: readonly string[]): Promise<DeskBooked[]> {
  const shown: DeskBooked[] = [];
  for (const visit of await visitsBooked(ctx.em, ids))
    shown.push({
      id: visit.id,
      patientId: visit.patientId ?? '',
      siteId: visit.siteId,
      providerId: visit.providerId,
      visitTypeId: visit.visitTypeId,
      date: visit.siteDate,
      start: visit.startsAt.toISOString(),
      end: visit.endsAt.toISOString(),
      timeZone: visit.site.timeZone,
      waived: [...(visit.rulesWaived ?? [])],
      told: await toldAbout(ctx, visit.id),
    });
  return shown.sort((a, b) => ids.indexOf(a.id) - ids.indexOf(b.id));
}

/** The answer to the same call again: what it came to. */
export async function bookedAgain(ctx: Ctx, known: DeskBooking): Promise<AnswerOf<typeof bookContract>> {
  return { visits: await shownVisits(ctx, known.appointmentIds), undo: { id: known.undoId } };
}
