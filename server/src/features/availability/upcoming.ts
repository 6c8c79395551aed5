import type { InputOf, OutputOf } from '@zaguan/contracts';
import type { UpcomingChange, upcomingChanges } from '@zaguan/contracts/availability';
import { orphansOf, type ScheduleRows } from '@zaguan/core/schedule';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { type Ctx, sitesFor, includesSite } from '../../platform/endpoint/context.ts';
import { namesOf } from './availability.repository.ts';
import { loadSchedule, versionsOf } from './schedule.repository.ts';

/** Everything in the schedule that is not as every week, by date. */
export async function upcoming(
  ctx: Ctx,
  { from, days }: InputOf<typeof upcomingChanges>,
): Promise<OutputOf<typeof upcomingChanges>> {
  const until = addDays(from, days - 1);
  const rows = await loadSchedule(ctx.em, from);
  const allowed = sitesFor(ctx, 'availability.view');
  const names = await namesOf(ctx.em);
  const versions = await versionsOf(
    ctx.em,
    rows.workingHours.map(({ id }) => id),
  );
  const covers = new Map(rows.timeOff.map(({ id, coverId }) => [id, coverId ? (names.get(coverId) ?? null) : null]));
  const changes = listed(rows, from, until).map((row) => ({
    coveredBy: covers.get(row.id) ?? null,
    ...row,
    name: row.subjectId === null ? null : (names.get(row.subjectId) ?? ''),
    resourceId: row.subjectId,
    version: versions.get(row.id) ?? 0,
  }));
  return {
    changes: changes
      .filter(({ siteId }) => siteId === null || includesSite(allowed, siteId))
      .map(({ subjectId: _, ...row }) => row)
      .sort((a, b) => a.date.localeCompare(b.date) || (a.name ?? '').localeCompare(b.name ?? '')),
  };
}

type Listed = Omit<UpcomingChange, 'name' | 'resourceId' | 'version' | 'coveredBy'> & {
  readonly subjectId: string | null;
};

function listed(rows: ScheduleRows, from: LocalDate, until: LocalDate): Listed[] {
  const within = (date: LocalDate | null) => date !== null && date >= from && date <= until;
  const reaches = (start: LocalDate, end: LocalDate) => start <= until && end >= from;
  const orphans = new Set(orphansOf(rows).map(({ id }) => id));
  const stretch = ({ fromMinute, toMinute }: { fromMinute: number; toMinute: number }) => ({ fromMinute, toMinute });
  return [
    ...rows.workingHours.flatMap((row): Listed[] => {
      const about = { id: row.id, subjectId: row.subject.id, siteId: row.siteId, ...stretch(row), note: '' };
      const { effectiveFrom, effectiveUntil } = row.rule;
      return [
        ...(within(effectiveFrom)
          ? [{ ...about, what: 'hours-begin' as const, date: effectiveFrom, until: effectiveUntil }]
          : []),
        ...(effectiveUntil !== null && within(effectiveUntil)
          ? [{ ...about, what: 'hours-end' as const, date: effectiveUntil, until: null }]
          : []),
      ];
    }),
    ...rows.dateChanges
      .filter(({ date }) => within(date))
      .map(
        (row): Listed => ({
          what: orphans.has(row.id) ? 'orphan' : 'date-change',
          id: row.id,
          date: row.date,
          until: null,
          subjectId: row.subject.id,
          siteId: row.hours?.siteId ?? null,
          fromMinute: row.hours?.fromMinute ?? null,
          toMinute: row.hours?.toMinute ?? null,
          note: '',
        }),
      ),
    ...rows.timeOff
      .filter((row) => reaches(row.startDate, row.endDate))
      .map((row): Listed => ({ ...ofSpan(row), what: 'time-off', subjectId: row.resourceId, siteId: row.siteId })),
    ...rows.closures
      .filter((row) => reaches(row.startDate, row.endDate))
      .map((row): Listed => ({ ...ofSpan(row), what: 'closure', subjectId: null, siteId: row.siteId })),
    ...rows.keptFree
      .filter(({ rule }) => within(rule.effectiveFrom) || within(rule.effectiveUntil))
      .map(
        (row): Listed => ({
          what: 'kept-free',
          id: row.id,
          date: row.rule.effectiveFrom,
          until: row.rule.effectiveUntil,
          subjectId: row.resourceId,
          siteId: row.siteId,
          ...stretch(row),
          note: row.note ?? '',
        }),
      ),
    ...rows.brush
      .filter(({ date }) => within(date))
      .map(
        (row): Listed => ({
          what: 'brush',
          id: row.id,
          date: row.date,
          until: null,
          subjectId: row.resourceId,
          siteId: row.siteId,
          ...stretch(row),
          note: row.value,
        }),
      ),
  ];
}

function ofSpan(row: ScheduleRows['timeOff'][number] | ScheduleRows['closures'][number]) {
  return {
    id: row.id,
    date: row.startDate,
    until: row.endDate,
    fromMinute: row.startMinute,
    toMinute: row.endMinute,
    note: row.reason ?? '',
  };
}
