import type { InputOf } from '@zaguan/contracts';
import type { endWish as endContract, WishRow, wishesOfVisit as ofVisitContract } from '@zaguan/contracts/desk';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { mayOpenRecord } from '../restricted/index.ts';
import { openWishes, setWishEnded, visitWithNames, wishWithNames } from './desk.repository.ts';

type WishWithType = Awaited<ReturnType<typeof openWishes>>[number];

export function toWishRow(row: WishWithType): WishRow {
  return {
    ...{ id: row.id, appointmentId: row.appointmentId, visitType: row.visitType.name },
    ...{ fromMinute: row.fromMinute, toMinute: row.toMinute, fromDate: row.fromDate, untilDate: row.untilDate },
    weekdays: row.weekdays && [...row.weekdays],
    siteIds: row.siteIds && [...row.siteIds],
    providerIds: row.providerIds && [...row.providerIds],
    noticeMin: row.noticeMin,
  };
}

/** When the patient of a visit would come sooner. */
export async function wishesOfVisit(
  ctx: Ctx,
  { id }: InputOf<typeof ofVisitContract>,
): Promise<AnswerOf<typeof ofVisitContract>> {
  const visit = await visitWithNames(ctx.em, id);
  if (!visit?.patient) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'appointment.book', visit.siteId) || !(await mayOpenRecord(ctx, visit.patient)))
    return ctx.fail('NotAllowed');
  ctx.viewed([visit.patient.id]);
  const wishes = await openWishes(ctx.em, { appointmentId: id });
  return { wishes: wishes.map(toWishRow) };
}

/** Whether the caller may change a wish: its patient's record is open to them, and its visit is at one of their sites. */
async function refuseWish(ctx: Ctx, id: string): Promise<Failure<'NotFound' | 'NotAllowed'> | null> {
  const wish = await wishWithNames(ctx.em, id);
  if (!wish) return ctx.fail('NotFound');
  const { patient, appointment } = wish;
  const covers = appointment === null || coversSite(ctx, 'appointment.book', appointment.siteId);
  return covers && (await mayOpenRecord(ctx, patient)) ? null : ctx.fail('NotAllowed');
}

/** Somebody no longer wants to come sooner. */
export async function endWish(ctx: Ctx, { id }: InputOf<typeof endContract>): Promise<AnswerOf<typeof endContract>> {
  const refused = await refuseWish(ctx, id);
  if (refused) return refused;
  if (!(await setWishEnded(ctx.em, id, ctx.now))) return ctx.fail('NotFound');
  ctx.wrote({ subjects: [{ kind: 'waitlist-wish', id }], before: { open: true }, after: { open: false } });
  return { undo: await ctx.undoable({ command: 'desk.openWish', input: { id }, label: { what: 'wish' } }) };
}

/** Its inverse. */
export async function openWish(ctx: Ctx, { id }: { id: string }): Promise<UndoAnswer> {
  const refused = await refuseWish(ctx, id);
  if (refused) return refused;
  if (!(await setWishEnded(ctx.em, id, null))) return ctx.fail('NotFound');
  ctx.wrote({ subjects: [{ kind: 'waitlist-wish', id }], before: { open: false }, after: { open: true } });
  return {};
}
