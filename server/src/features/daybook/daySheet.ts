import type { InputOf } from '@zaguan/contracts';
import type {
  DayNote,
  daySheet as sheetContract,
  daySheetCalendar as calendarContract,
  DaySheetRow,
} from '@zaguan/contracts/daybook';
import { familyFirst, restrictedName } from '@zaguan/core/patients';
import { scheduleToCalendar } from '../../exchange/scheduleCalendar.ts';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { Site } from '../../schema/index.ts';
import { clinicRow, siteRows } from '../clinic/index.ts';
import { loadReadiness } from '../intake/index.ts';
import { hiddenVisits } from '../restricted/index.ts';
import { laneRows } from './daybook.sql.ts';
import { shownNotes } from './notes.ts';
import { sheetRows } from './daySheet.sql.ts';

type Asked = InputOf<typeof sheetContract>;

/** The site and, if one is named, whose sheet it is; a lane that the site does not have is not found. */
async function sheetOf(ctx: Ctx, { siteId, resourceId }: Asked) {
  if (!coversSite(ctx, 'daybook.view', siteId)) return ctx.fail('NotAllowed');
  const site = (await siteRows(ctx.em)).find(({ id }) => id === siteId);
  if (!site) return ctx.fail('NotFound');
  if (resourceId === undefined) return { site, of: null };
  const lane = (await laneRows(ctx.em)).find((row) => row.siteId === siteId && row.resourceId === resourceId);
  return lane ? { site, of: lane.name } : ctx.fail('NotFound');
}

const iso = (instant: string) => new Date(instant).toISOString();

/** The day on one sheet, for a wall, a pocket, or the hour in which nothing else works. */
export async function daySheet(ctx: Ctx, asked: Asked): Promise<AnswerOf<typeof sheetContract>> {
  const sheet = await sheetOf(ctx, asked);
  if (sheet instanceof Failure) return sheet;
  const { date, resourceId = null } = asked;
  const read = await readSheet(ctx, sheet.site, { date, resourceId, hiddenOf: (ids) => hiddenVisits(ctx, ids) });
  ctx.viewed(read.seen);
  const { site, of } = sheet;
  return {
    date,
    now: ctx.now.toISOString(),
    site: { id: site.id, name: site.name, timeZone: site.timeZone },
    of,
    unreadable: [],
    notes: read.notes,
    rows: read.rows,
  };
}

/** What stands on a sheet, whoever it is for. */
export async function readSheet(
  ctx: Ctx,
  { id: siteId }: Pick<Site, 'id'>,
  {
    date,
    resourceId,
    hiddenOf,
  }: {
    readonly date: string;
    readonly resourceId: string | null;
    /** Which of these visits are of somebody who is not to be told of. */
    readonly hiddenOf: (ids: readonly string[]) => Promise<ReadonlySet<string>>;
  },
): Promise<{ rows: DaySheetRow[]; notes: DayNote[]; seen: string[] }> {
  const rows = await sheetRows(ctx.em, { date, siteId, resourceId });
  const ids = rows.map(({ visitId }) => visitId);
  const hidden = await hiddenOf(ids);
  const held = new Set((await loadReadiness(ctx.em, ids)).flatMap((one) => (one.readiness.held ? [one.visit.id] : [])));
  const notes = await shownNotes(ctx, [date]);
  return {
    seen: rows.flatMap((row) => (hidden.has(row.visitId) ? [] : (row.patientId ?? []))),
    notes: [...notes(siteId, null, date), ...(resourceId === null ? [] : notes(siteId, resourceId, date))],
    rows: rows.map((row) => {
      const isHidden = hidden.has(row.visitId);
      return {
        id: row.visitId,
        start: iso(row.startsAt),
        end: iso(row.endsAt),
        status: row.status,
        confirmed: row.confirmed,
        visitType: row.visitType,
        provider: row.provider,
        places: [...row.places],
        patient: (isHidden ? restrictedName : familyFirst)(row.givenName, row.familyName),
        birthDate: isHidden ? null : row.birthDate,
        phone: isHidden ? null : row.phone,
        reason: isHidden ? '' : (row.reason ?? ''),
        alert: isHidden ? '' : (row.alert ?? ''),
        held: held.has(row.visitId),
      };
    }),
  };
}

/** The same for a calendar program: nobody's name, whoever's calendar it is. */
export async function daySheetCalendar(
  ctx: Ctx,
  asked: InputOf<typeof calendarContract>,
): Promise<AnswerOf<typeof calendarContract>> {
  const sheet = await sheetOf(ctx, asked);
  if (sheet instanceof Failure) return sheet;
  const { date, siteId, resourceId = null } = asked;
  const [rows, clinic] = [await sheetRows(ctx.em, { date, siteId, resourceId }), await clinicRow(ctx.em)];
  return scheduleToCalendar({
    name: [sheet.of, sheet.site.name, date].filter(Boolean).join(', '),
    organizer: { name: clinic.name, email: ctx.addresses.mailFrom },
    busy: rows.map((row) => ({
      ...{ id: row.visitId, what: row.visitType, place: sheet.site.name },
      ...{ start: new Date(row.startsAt), end: new Date(row.endsAt), stamp: new Date(row.changedAt) },
    })),
  });
}
