import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf } from '@zaguan/contracts';
import type { LaneDay, RecurringHours, ScheduleWeek, scheduleWeek } from '@zaguan/contracts/availability';
import { cellsOfSpan, type ResourceDay } from '@zaguan/core/availability';
import { hoursBandsOf } from '@zaguan/core/daybook';
import type { ClinicStore } from '@zaguan/core/openings';
import { occursOn } from '@zaguan/core/recurrence';
import { resolveEdits, type ScheduleRows } from '@zaguan/core/schedule';
import { addDays, datesFrom, wallAt, wallSpansOf, type ZoneDay } from '@zaguan/core/time';
import { type Ctx, earliestDate, sitesFor, includesSite, siteList } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { siteRows } from '../clinic/index.ts';
import { draftById } from './drafts.repository.ts';
import { draftIds } from './drafts.ts';
import { laneRows, type LaneRow, visitCounts } from './availability.sql.ts';
import { mayEdit } from './rights.ts';
import { loadSchedule, versionsOf } from './schedule.repository.ts';
import { countVisitsToMove } from './visitsToMove.ts';

const WEEK_DAYS = 7;

export async function week(
  ctx: Ctx,
  { from, draftId }: InputOf<typeof scheduleWeek>,
): Promise<AnswerOf<typeof scheduleWeek>> {
  const until = addDays(from, WEEK_DAYS - 1);
  const today = earliestDate(ctx);
  const clinic = await ctx.clinic({ from, until });
  const standing = await loadSchedule(ctx.em, from < today ? from : today);
  const rows = draftId ? await asInDraft(ctx, draftId, clinic, standing) : standing;
  if (rows instanceof Failure) return rows;
  const store = clinic.withSchedule(rows);
  const allowed = sitesFor(ctx, 'availability.view');
  const sites = (await siteRows(ctx.em)).filter((site) => includesSite(allowed, site.id));
  const lanes = (await laneRows(ctx.em)).filter((lane) => sites.some((site) => site.id === lane.siteId));
  const visits = await visitCounts(ctx.em, from, until);
  const dates = datesFrom(from, until);
  const versions = await versionsOf(
    ctx.em,
    rows.workingHours.map(({ id }) => id),
  );
  return {
    from,
    today,
    mayEdit: await mayEdit(ctx),
    ownResourceId: ctx.actor.kind === 'staff' ? ctx.actor.resourceId : null,
    toMove: await countVisitsToMove(ctx, siteList(sitesFor(ctx, 'appointment.move'))),
    sites: sites.map((site) => ({
      id: site.id,
      name: site.name,
      timeZone: site.timeZone,
      days: dates.map((date) => siteDay(store, rows, site.id, date)),
    })),
    lanes: lanes.map((lane) => ({
      resourceId: lane.resourceId,
      siteId: lane.siteId,
      name: lane.name,
      kind: lane.kind,
      color: lane.color,
      days: dates.map((date) => ({
        ...laneDay(store, rows, lane, date),
        visits: visits.get(`${lane.resourceId} ${lane.siteId} ${date}`) ?? 0,
      })),
    })),
    hours: rows.workingHours
      .filter(({ siteId }) => includesSite(allowed, siteId))
      .map((hoursRow) => toHours(hoursRow, versions.get(hoursRow.id) ?? 0)),
  };
}

/** The rows as a draft would make them. */
async function asInDraft(
  ctx: Ctx,
  draftId: string,
  store: ClinicStore,
  rows: ScheduleRows,
): Promise<ScheduleRows | Failure<'NotAllowed' | 'NotFound'>> {
  if ((await mayEdit(ctx)) !== 'all') return ctx.fail('NotAllowed');
  const draft = await draftById(ctx.em, draftId);
  if (!draft) return ctx.fail('NotFound');
  const today = earliestDate(ctx);
  return resolveEdits(draft.edits, { store, rows, today, newId: draftIds(draftId) }).rows;
}

function siteDay(
  store: ClinicStore,
  rows: ScheduleRows,
  siteId: string,
  date: string,
): ScheduleWeek['sites'][number]['days'][number] {
  const day = store.day(siteId, date);
  return {
    date,
    open: wallSpansOf(day, store.siteDay(siteId, date).open),
    closed: rows.closures
      .filter((row) => row.siteId === siteId)
      .flatMap((row) =>
        wallSpansOf(day, cellsOfSpan(day, row)).map((span) => ({ ...span, id: row.id, reason: row.reason ?? '' })),
      ),
  };
}

function laneDay(store: ClinicStore, rows: ScheduleRows, lane: LaneRow, date: string): Omit<LaneDay, 'visits'> {
  const { resourceId, siteId } = lane;
  const day = store.day(siteId, date);
  const plan = store.planOn(store.lane(resourceId, siteId), day);
  const here = (row: { resourceId: string; siteId: string | null }) =>
    row.resourceId === resourceId && (row.siteId === null || row.siteId === siteId);
  return {
    date,
    hours: hoursOf(store, rows, plan, day, siteId),
    cancelled: plan.stretches.slice(0, plan.removed).flatMap(({ fromCell, toCell, sourceId }) => {
      const change = rows.dateChanges.find((row) => row.workingHoursId === sourceId && row.date === date);
      if (!change) return [];
      const span = { fromMinute: wallAt(day, fromCell), toMinute: wallAt(day, toCell) };
      return [{ ...span, hoursId: sourceId, changeId: change.id }];
    }),
    timeOff: rows.timeOff
      .filter(here)
      .flatMap((row) =>
        wallSpansOf(day, cellsOfSpan(day, row)).map((span) => ({ ...span, id: row.id, reason: row.reason ?? '' })),
      ),
    keptFree: rows.keptFree
      .filter((row) => here(row) && occursOn(row.rule, date))
      .map(({ id, fromMinute, toMinute, note }) => ({ id, fromMinute, toMinute, note: note ?? '' })),
    brush: [
      ...wallSpansOf(day, plan.brushShown).map((span) => ({ ...span, value: 'shown' as const })),
      ...wallSpansOf(day, plan.brushDesk).map((span) => ({ ...span, value: 'desk-only' as const })),
    ],
  };
}

/** Stretches in force, before time off, each with which of its minutes patients see. */
function hoursOf(
  store: ClinicStore,
  rows: ScheduleRows,
  plan: ResourceDay,
  day: ZoneDay,
  siteId: string,
): LaneDay['hours'] {
  const hoursBands = hoursBandsOf(plan, store.siteDay(siteId, day.date));
  const changes = new Map(rows.dateChanges.map((row) => [row.id, row]));
  const found = plan.stretches.slice(plan.removed).flatMap((stretch, i) => {
    // What lies wholly under a later stretch is not worked.
    if (![...plan.stretchOfCell.subarray(stretch.fromCell, stretch.toCell)].includes(i + plan.removed)) return [];
    const change = changes.get(stretch.sourceId);
    return [
      {
        fromMinute: wallAt(day, stretch.fromCell),
        toMinute: wallAt(day, stretch.toCell),
        hoursId: change ? change.workingHoursId : stretch.sourceId,
        changeId: change?.id ?? null,
        online: hoursBands
          .filter((hoursBand) => hoursBand.stretch === i + plan.removed)
          .flatMap((hoursBand) => hoursBand.online)
          .map(({ fromCell, toCell }) => ({ fromMinute: wallAt(day, fromCell), toMinute: wallAt(day, toCell) })),
        places: stretch.places,
        accepts: toAccepts(stretch.accepts),
      },
    ];
  });
  return found.sort((a, b) => a.fromMinute - b.fromMinute);
}

function toAccepts({ visitTypeIds, kinds, invitedOnly }: ResourceDay['stretches'][number]['accepts']) {
  return { visitTypeIds: visitTypeIds && [...visitTypeIds], kinds: kinds && [...kinds], invitedOnly };
}

export function toHours(hoursRow: ScheduleRows['workingHours'][number], version: number): RecurringHours {
  const { id, subject, siteId, rule, followsSiteHours, fromMinute, toMinute, places, online } = hoursRow;
  const { weekdays, everyWeeks, effectiveFrom, effectiveUntil } = rule;
  return {
    id,
    version,
    subject: { ...subject },
    siteId,
    weekdays: [...weekdays],
    everyWeeks,
    effectiveFrom,
    effectiveUntil,
    followsSiteHours,
    fromMinute,
    toMinute,
    places,
    accepts: toAccepts(hoursRow.accepts),
    online,
    release: hoursRow.release && { ...hoursRow.release, accepts: toAccepts(hoursRow.release.accepts) },
    caps: hoursRow.caps.map((cap) => ({ ...cap })),
    preferredRoomIds: [...(hoursRow.preferredRoomIds ?? [])],
  };
}
