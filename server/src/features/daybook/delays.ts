import { randomUUID } from 'node:crypto';
import type { InputOf } from '@zaguan/contracts';
import type { Delay, setDelay as setContract } from '@zaguan/contracts/daybook';
import { stillToTell, TOLD_AHEAD_MIN } from '@zaguan/core/daybook';
import { addDays, epochToWall, type LocalDate } from '@zaguan/core/time';
import { coversSite, type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { type UnitDeps, unitOfWork } from '../../platform/uow/unitOfWork.ts';
import type { ProviderDelay } from '../../schema/index.ts';
import { siteOf } from '../clinic/index.ts';
import { planForDelay, planForOnTime } from '../messages/index.ts';
import { laneRows } from './daybook.sql.ts';
import { delayForUpdate, delaysToTell, endDelay, insertDelay } from './daybook.repository.ts';
import { type VisitOfDelay, visitsOfDelay } from './delays.sql.ts';

const minuteOf = (instant: string | Date) => new Date(instant).getTime() / 60_000;

/** Who is still at home and would wait, of a provider's visits. */
function concerned(visits: readonly VisitOfDelay[], now: number, delayMin: number): VisitOfDelay[] {
  const rows = visits.map((visit) => ({ id: visit.id, status: visit.status, start: minuteOf(visit.startsAt), visit }));
  return stillToTell(rows, now, delayMin).map(({ visit }) => visit);
}

/** A provider runs late, or is on time again: noted, and told to those who are still at home. */
export async function setDelay(
  ctx: Ctx,
  { siteId, resourceId, date, minutes, was }: InputOf<typeof setContract>,
): Promise<AnswerOf<typeof setContract>> {
  if (ctx.actor.kind !== 'staff' || !coversSite(ctx, 'daybook.annotate', siteId)) return ctx.fail('NotAllowed');
  const lane = (await laneRows(ctx.em)).find((row) => row.siteId === siteId && row.resourceId === resourceId);
  if (lane?.kind !== 'provider') return ctx.fail('NotFound');
  const { timeZone } = await siteOf(ctx.em, siteId);
  if (epochToWall(timeZone, nowMinute(ctx)).date !== date)
    return ctx.fail('InvalidInput', { issues: [{ path: 'date', code: 'not-today' }] });
  if (minutes === was) return ctx.fail('InvalidInput', { issues: [{ path: 'minutes', code: 'nothing-changes' }] });
  const of = { siteId, resourceId, siteDate: date };
  const held = await delayForUpdate(ctx.em, of);
  const present = held?.minutes ?? 0;
  if (present !== was) return ctx.fail('ChangedMeanwhile', { facts: { minutes: present } });
  if (held) await endDelay(ctx.em, held.id, ctx.now);
  const said = { id: ctx.newId(), ...of, minutes, since: ctx.now, saidBy: ctx.actor.accountId };
  if (minutes > 0 && !(await insertDelay(ctx.em, said))) return ctx.fail('ChangedMeanwhile');
  const visits = await visitsOfDelay(ctx.em, [date], siteId, [resourceId]);
  const who = concerned(visits, nowMinute(ctx), Math.max(minutes, was));
  let told = 0;
  for (const { id } of who)
    if (minutes > 0 ? await planForDelay(ctx, id, minutes) : await planForOnTime(ctx, id)) told++;
  ctx.emit({ type: 'visit-changed', siteId, date });
  ctx.wrote({ subjects: [{ kind: 'resource', id: resourceId }], before: { late: was }, after: { late: minutes } });
  const input = { siteId, resourceId, date, minutes: was, was: minutes };
  const undo = await ctx.undoable({ command: 'daybook.setDelay', input, label: { what: 'delay' } });
  return { told, toCall: minutes > 0 ? who.length - told : 0, undo };
}

/** Which providers are behind, by site and date. */
export async function shownDelays(
  ctx: Ctx,
  delays: readonly ProviderDelay[],
): Promise<(siteId: string, date: LocalDate) => Delay[]> {
  const providers = [...new Set(delays.map(({ resourceId }) => resourceId))];
  const dates = [...new Set(delays.map(({ siteDate }) => siteDate))];
  const visits = delays.length ? await visitsOfDelay(ctx.em, dates, null, providers) : [];
  return (siteId, date) =>
    delays
      .filter((delay) => delay.siteId === siteId && delay.siteDate === date)
      .map(({ resourceId, minutes, since }) => {
        const theirs = visits.filter((visit) => visit.siteId === siteId && visit.providerId === resourceId);
        const untold = concerned(theirs, nowMinute(ctx), minutes).filter(({ told }) => !told);
        return { resourceId, minutes, since: since.toISOString(), toCall: untold.map(({ id }) => id) };
      });
}

/** Tells those whose visit has come near since a delay was said; open Daybooks hear of who must be called. */
async function tellOfDelays(ctx: Ctx): Promise<object> {
  const now = nowMinute(ctx);
  const yesterday = addDays(ctx.now.toISOString().slice(0, 10), -1);
  for (const { siteId, siteDate, resourceId, minutes } of await delaysToTell(ctx.em, yesterday)) {
    const visits = await visitsOfDelay(ctx.em, [siteDate], siteId, [resourceId]);
    // Who was written to once, and in vain, is called: not written to again every half minute.
    const untold = concerned(visits, now, minutes).filter(({ tried }) => !tried);
    let isNews = untold.some(({ startsAt }) => minuteOf(startsAt) - now > TOLD_AHEAD_MIN - 1);
    for (const { id } of untold) if (await planForDelay(ctx, id, minutes)) isNews = true;
    if (isNews) ctx.emit({ type: 'visit-changed', siteId, date: siteDate });
  }
  return {};
}

/** What is done about delays every now and then, in a transaction of its own. */
export function delayRounds(deps: UnitDeps) {
  const actor = { kind: 'system' } as const;
  return async () => {
    await unitOfWork(deps, { command: 'daybook.tellOfDelays', actor, requestId: randomUUID() }, tellOfDelays);
  };
}
