import type { InputOf } from '@zaguan/contracts';
import type { daybookMonth as monthContract } from '@zaguan/contracts/daybook';
import { oneAfterAnother } from '@zaguan/core/daybook';
import { ClinicIndex, openDays } from '@zaguan/core/openings';
import { addDays, andNot, CELL_MIN, datesFrom, epochToWall, isEmpty, type LocalDate } from '@zaguan/core/time';
import { lengthOf } from '@zaguan/core/visits';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { siteRows } from '../clinic/index.ts';
import { bookedByDate } from './daybook.sql.ts';

/** The first day of a month, and its last. */
function monthRange(month: string): { from: LocalDate; until: LocalDate } {
  const from = `${month}-01`;
  const next = `${addDays(from, 31).slice(0, 7)}-01`;
  return { from, until: addDays(next, -1) };
}

/** A month of a site: what is booked, and what is left to book of one visit type. */
export async function daybookMonth(
  ctx: Ctx,
  { month, siteId, visitTypeId, kind }: InputOf<typeof monthContract>,
): Promise<AnswerOf<typeof monthContract>> {
  if (!coversSite(ctx, 'daybook.view', siteId)) return ctx.fail('NotAllowed');
  const site = (await siteRows(ctx.em)).find(({ id }) => id === siteId);
  if (!site) return ctx.fail('NotFound');
  const { from, until } = monthRange(month);
  const now = nowMinute(ctx);
  const index = new ClinicIndex(await ctx.clinic({ from, until }), now);
  const today = epochToWall(site.timeZone, now).date;
  const booked = await bookedByDate(ctx.em, { siteId, from, until, visitTypeId: visitTypeId ?? null });
  if (visitTypeId && !index.store.plan.visitTypes.some(({ id }) => id === visitTypeId)) return ctx.fail('NotFound');
  const left =
    visitTypeId && until >= today ? leftByDate(index, { siteId, visitTypeId, kind, from, until, today }) : null;
  return {
    today,
    days: datesFrom(from, until).map((date) => ({
      date,
      closed: isClosed(index, siteId, date),
      booked: booked.get(date) ?? 0,
      left: left && date >= today ? (left.get(date) ?? 0) : null,
    })),
  };
}

/** Without hours, or closed all through them, as on a holiday. */
function isClosed(index: ClinicIndex, siteId: string, date: LocalDate): boolean {
  const { open, closed } = index.siteDay(siteId, date);
  return isEmpty(andNot(open, closed));
}

/** Start times of each provider, filled one after another. */
function leftByDate(
  index: ClinicIndex,
  asked: {
    readonly siteId: string;
    readonly visitTypeId: string;
    readonly kind: 'new' | 'established';
    readonly from: LocalDate;
    readonly until: LocalDate;
    readonly today: LocalDate;
  },
): Map<LocalDate, number> {
  const { siteId, visitTypeId, kind, from, until, today } = asked;
  const type = index.visitType(visitTypeId);
  const takenCells = Math.ceil((lengthOf(type) + type.afterMin) / CELL_MIN);
  const range = { siteIds: [siteId], providerIds: null, from: from > today ? from : today, until };
  const left = new Map<LocalDate, number>();
  for (const { day, starts } of openDays(index, { visitTypeId, kind, channel: 'desk' }, range))
    left.set(day.date, (left.get(day.date) ?? 0) + oneAfterAnother(starts, takenCells));
  return left;
}
