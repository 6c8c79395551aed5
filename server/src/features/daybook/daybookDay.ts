import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { type InputOf, type OutputOf, toWire } from '@zaguan/contracts';
import {
  type daybookDay as dayContract,
  type daybookWeek as weekContract,
  foldSiteDay,
  type Plate,
  type SiteDay,
  type visitInShort as shortContract,
} from '@zaguan/contracts/daybook';
import type { ReadinessShort } from '@zaguan/contracts/intake';
import { bookedShare, hoursBandsOf } from '@zaguan/core/daybook';
import { ClinicIndex } from '@zaguan/core/openings';
import { familyFirst, fullName, restrictedName, shortName } from '@zaguan/core/patients';
import {
  addDays,
  addRangeInto,
  CELL_MIN,
  emptyMask,
  epochOfCell,
  type LocalDate,
  type Mask,
  runsOf,
  type ZoneDay,
} from '@zaguan/core/time';
import { coversSite, type Ctx, nowMinute, sitesFor, includesSite } from '../../platform/endpoint/context.ts';
import { siteRows } from '../clinic/index.ts';
import { loadReadiness } from '../intake/index.ts';
import { hiddenVisits } from '../restricted/index.ts';
import { delaysOf, visitInShortRow } from './daybook.repository.ts';
import { type LaneRow, laneRows, type PlateRow, plateRows } from './daybook.sql.ts';
import { shownDelays } from './delays.ts';
import { shownNotes } from './notes.ts';

/** One date at every site the reader may see, as lanes with strips and plates. */
export async function daybookDay(
  ctx: Ctx,
  { date, siteId }: InputOf<typeof dayContract>,
): Promise<OutputOf<typeof dayContract>> {
  const index = new ClinicIndex(await ctx.clinic({ from: date, until: date }), nowMinute(ctx));
  const drawn = await drawDates(ctx, index, [date], await laneRows(ctx.em), { siteId });
  return { date, now: ctx.now.toISOString(), sites: drawn[0].sites.map(foldSiteDay) };
}

/** A visit at a site that the reader may not see is not told from none at all. */
export async function visitInShort(
  ctx: Ctx,
  { id }: InputOf<typeof shortContract>,
): Promise<AnswerOf<typeof shortContract>> {
  const row = await visitInShortRow(ctx.em, id);
  if (!row || !coversSite(ctx, 'daybook.view', row.siteId)) return ctx.fail('NotFound');
  const wire = (at: Date | null) => at?.toISOString() ?? null;
  return {
    siteId: row.siteId,
    date: row.siteDate,
    steps: {
      booked: row.createdAt.toISOString(),
      confirmed: wire(row.confirmedAt),
      arrived: wire(row.arrivedAt),
      'checked-in': wire(row.checkedInAt),
      fulfilled: wire(row.fulfilledAt),
      noshow: wire(row.noshowAt),
      cancelled: wire(row.cancelledAt),
    },
  };
}

const WEEK_DAYS = 7;

/** Seven dates of one resource. */
export async function daybookWeek(
  ctx: Ctx,
  { resourceId, from }: InputOf<typeof weekContract>,
): Promise<AnswerOf<typeof weekContract>> {
  const lanes = (await laneRows(ctx.em)).filter((lane) => lane.resourceId === resourceId);
  const dates = Array.from({ length: WEEK_DAYS }, (_, n) => addDays(from, n));
  const index = new ClinicIndex(await ctx.clinic({ from, until: dates[WEEK_DAYS - 1] }), nowMinute(ctx));
  const drawn = await drawDates(ctx, index, dates, lanes, { resourceId });
  // A lane at sites the reader may not see is not told from none at all.
  const days = drawn.map(({ date, sites }) => ({
    date,
    sites: sites.filter((site) => site.lanes.length > 0).map(foldSiteDay),
  }));
  if (days.every(({ sites }) => sites.length === 0)) return ctx.fail('NotFound');
  return { resourceId, name: lanes[0].name, from, now: ctx.now.toISOString(), days };
}

/** @param only the site that is drawn, or whose plates are read; all of them if not said */
async function drawDates(
  ctx: Ctx,
  index: ClinicIndex,
  dates: readonly LocalDate[],
  lanes: readonly LaneRow[],
  only: { readonly siteId?: string; readonly resourceId?: string },
): Promise<{ date: LocalDate; sites: SiteDay[] }[]> {
  const allowed = sitesFor(ctx, 'daybook.view');
  const sites = (await siteRows(ctx.em)).filter(
    ({ id }) => includesSite(allowed, id) && (only.siteId === undefined || id === only.siteId),
  );
  const rows = await plateRows(ctx.em, dates, ctx.now, only);
  const plates = rows.filter((row) => sites.some((site) => site.id === row.siteId));
  const readiness = await readinessOfPlates(ctx, plates);
  const hidden = await hiddenVisits(
    ctx,
    plates.map((row) => (row.kind === 'visit' ? row.visitId : null)),
  );
  ctx.viewed(plates.flatMap((row) => (hidden.has(row.visitId) ? [] : (row.patientId ?? []))));
  const notes = await shownNotes(ctx, dates);
  const delaysAt = await shownDelays(ctx, await delaysOf(ctx.em, dates));
  return dates.map((date) => ({
    date,
    sites: sites.map((site) => {
      const day = index.day(site.id, date);
      const hours = index.siteDay(site.id, date);
      const here = plates.filter((row) => row.siteId === site.id && row.siteDate === date);
      return {
        id: site.id,
        name: site.name,
        timeZone: site.timeZone,
        dayStart: toWire(day.start),
        dayEnd: toWire(day.end),
        closed: runs(day, hours.closed),
        open: runs(day, hours.open),
        delays: delaysAt(site.id, date),
        notes: notes(site.id, null, date),
        lanes: lanes
          .filter((lane) => lane.siteId === site.id)
          .map((lane) => ({
            ...drawLane(
              index,
              day,
              lane,
              here.filter((row) => row.resourceId === lane.resourceId),
              readiness,
              hidden,
            ),
            notes: notes(site.id, lane.resourceId, date),
          })),
      };
    }),
  }));
}

/** Statuses in which something may still be made ready. */
const BEFORE_CARE = new Set(['pending', 'booked', 'arrived', 'checked-in']);

async function readinessOfPlates(ctx: Ctx, plates: readonly PlateRow[]): Promise<ReadonlyMap<string, ReadinessShort>> {
  const ids = new Set(plates.filter((row) => row.status && BEFORE_CARE.has(row.status)).map((row) => row.visitId));
  return new Map(
    (await loadReadiness(ctx.em, [...ids])).map(({ visit, readiness: { done, total, ready, held } }) => [
      visit.id,
      { done, total, ready, held },
    ]),
  );
}

function runs(day: ZoneDay, mask: Mask): { start: string; end: string }[] {
  return runsOf(mask).map((run) => ({
    start: toWire(epochOfCell(day, run.fromCell)),
    end: toWire(epochOfCell(day, run.toCell)),
  }));
}

function drawLane(
  index: ClinicIndex,
  day: ZoneDay,
  lane: LaneRow,
  rows: readonly PlateRow[],
  readiness: ReadonlyMap<string, ReadinessShort>,
  hidden: ReadonlySet<string>,
): Omit<SiteDay['lanes'][number], 'notes'> {
  const plan = index.resourceDay(lane.resourceId, lane.siteId, day.date);
  const hoursBands = hoursBandsOf(plan, index.siteDay(lane.siteId, day.date));
  const taken = emptyMask();
  for (const row of rows)
    for (const run of row.present) addRangeInto(taken, cellAt(day, run.start), cellAt(day, run.end));
  return {
    id: `${lane.siteId}:${lane.resourceId}`,
    resourceId: lane.resourceId,
    name: lane.name,
    detail: lane.credentials ?? '',
    kind: lane.kind,
    hoursBands: hoursBands.map((hoursBand) => {
      const stretch = plan.stretches[hoursBand.stretch];
      return {
        start: toWire(epochOfCell(day, hoursBand.fromCell)),
        end: toWire(epochOfCell(day, hoursBand.toCell)),
        hoursId: stretch.sourceId,
        typeIds: stretch.accepts.visitTypeIds && [...stretch.accepts.visitTypeIds],
        kinds: stretch.accepts.kinds && [...stretch.accepts.kinds],
        invitedOnly: stretch.accepts.invitedOnly,
        places: stretch.places,
        online: hoursBand.online.map((run) => ({
          start: toWire(epochOfCell(day, run.fromCell)),
          end: toWire(epochOfCell(day, run.toCell)),
        })),
      };
    }),
    away: runs(day, plan.timeOff),
    keptFree: runs(day, plan.keptFree),
    plates: rows.map((row) => toPlate(row, readiness.get(row.visitId) ?? null, hidden.has(row.visitId))),
    booked: bookedShare(hoursBands, taken),
  };
}

function cellAt(day: ZoneDay, instant: string): number {
  return (Date.parse(instant) / 60_000 - day.start) / CELL_MIN;
}

/** Neighboring parts on the same resource are one stretch to the eye. */
function joined(runs: PlateRow['present']): PlateRow['present'] {
  const out: { start: string; end: string }[] = [];
  for (const run of runs) {
    const last = out.at(-1);
    if (last?.end === run.start) last.end = run.end;
    else out.push({ ...run });
  }
  return out;
}

/** A nurse who gives an injection is free while it is watched: the plate on her lane ends when she leaves. */
function drawnOn(row: PlateRow): Plate['drawn'] {
  const [start, end] =
    row.resourceId === row.providerId
      ? [row.startsAt, row.endsAt]
      : [row.present[0].start, row.present[row.present.length - 1].end];
  return { start: new Date(start).toISOString(), end: new Date(end).toISOString() };
}

/** @param hidden the person is not for the reader to see */
function toPlate(row: PlateRow, readiness: ReadinessShort | null, hidden: boolean): Plate {
  return {
    id: row.visitId,
    kind: row.kind,
    resourceId: row.resourceId,
    providerId: row.providerId,
    start: new Date(row.startsAt).toISOString(),
    end: new Date(row.endsAt).toISOString(),
    drawn: drawnOn(row),
    present: joined(row.present),
    visitTypeId: row.visitTypeId,
    status: row.status ?? 'pending',
    confirmed: row.confirmed,
    identity: row.identity ?? 'unknown',
    approval: row.approval ?? 'not-needed',
    origin: row.origin,
    patientKind: row.patientKind,
    // By itself it tells nobody's name; it leads to where the record can be opened with a reason.
    patientId: row.patientId,
    name: (hidden ? restrictedName : fullName)(row.givenName, row.familyName),
    shortName: (hidden ? restrictedName : shortName)(row.givenName, row.familyName),
    familyFirst: (hidden ? restrictedName : familyFirst)(row.givenName, row.familyName),
    reason: hidden ? '' : (row.reason ?? ''),
    alert: hidden ? '' : (row.alert ?? ''),
    waived: row.waived ?? [],
    groupKind: row.groupKind,
    bookedBy: row.bookedBy,
    waitingSince: row.waitingSince && new Date(row.waitingSince).toISOString(),
    cancelReason: null,
    readiness,
    version: row.version ?? 0,
  };
}
