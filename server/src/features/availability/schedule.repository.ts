import { raw, type SqlEntityManager } from '@mikro-orm/postgresql';
import type { EntitySchema } from '@mikro-orm/postgresql';
import { ROW_KINDS, type RowChanges, type RowKind, type RowOf, type ScheduleRows } from '@zaguan/core/schedule';
import type { LocalDate } from '@zaguan/core/time';
import { findRows } from '../../platform/db/read.ts';
import { insertIfNew, insertRow } from '../../platform/db/write.ts';
import {
  BrushStrokeEntity,
  ClosureEntity,
  KeptFreeEntity,
  ResourceSiteEntity,
  TimeOffEntity,
  WorkingHoursChangeEntity,
  WorkingHoursEntity,
} from '../../schema/index.ts';
import { loadPlan } from '../openings/index.ts';
import { inside } from '../../platform/db/statement.ts';
import { putStrokeBack } from './schedule.sql.ts';

/** Hours without an end are read to here. */
const FAR = '2190-01-01';

/** All rows of the schedule that hold on or after a date, as the transaction sees them. */
export async function loadSchedule(em: SqlEntityManager, from: LocalDate): Promise<ScheduleRows> {
  const plan = await loadPlan(inside(em), { from, until: FAR });
  const { workingHours, dateChanges, timeOff, keptFree, brush, closures } = plan;
  return { workingHours, dateChanges, timeOff, keptFree, brush, closures };
}

export async function versionsOf(em: SqlEntityManager, ids: readonly string[]): Promise<Map<string, number>> {
  const rows = await findRows(em, WorkingHoursEntity, { id: { $in: [...ids] } }, { fields: ['id', 'version'] });
  return new Map(rows.map((row) => [row.id, row.version]));
}

const ENTITY: Record<RowKind, EntitySchema> = {
  workingHours: WorkingHoursEntity,
  dateChanges: WorkingHoursChangeEntity,
  timeOff: TimeOffEntity,
  keptFree: KeptFreeEntity,
  brush: BrushStrokeEntity,
  closures: ClosureEntity,
};

type Columns = Record<string, unknown>;

function ofSubject({ of, id }: { of: 'resource' | 'pool'; id: string }): Columns {
  return { resourceId: of === 'resource' ? id : null, poolId: of === 'pool' ? id : null };
}

function ofRule(rule: RowOf<'workingHours'>['rule']): Columns {
  return {
    weekdays: rule.weekdays,
    everyWeeks: rule.everyWeeks,
    anchorDate: rule.anchorDate,
    effectiveFrom: rule.effectiveFrom,
    effectiveUntil: rule.effectiveUntil,
  };
}

function ofSpan(row: RowOf<'closures'> | RowOf<'timeOff'>): Columns {
  return {
    startDate: row.startDate,
    startMinute: row.startMinute,
    endDate: row.endDate,
    endMinute: row.endMinute,
    reason: row.reason ?? '',
  };
}

/** How each kind of row stands in its table. Leaving one out does not compile. */
const COLUMNS: { readonly [K in RowKind]: (row: RowOf<K>) => Columns } = {
  workingHours: ({ subject, siteId, rule, fromMinute, toMinute, accepts, release, ...row }) => ({
    ...ofSubject(subject),
    ...ofRule(rule),
    siteId: siteId,
    fromMinute: fromMinute,
    toMinute: toMinute,
    acceptsTypeIds: accepts.visitTypeIds,
    acceptsKinds: accepts.kinds,
    invitedOnly: accepts.invitedOnly,
    online: row.online,
    places: row.places,
    followsSiteHours: row.followsSiteHours,
    preferredRoomIds: row.preferredRoomIds ?? [],
    releaseBeforeMin: release?.beforeMin ?? null,
    releaseTypeIds: release?.accepts.visitTypeIds ?? null,
    releaseKinds: release?.accepts.kinds ?? null,
    releaseInvitedOnly: release?.accepts.invitedOnly ?? false,
    releaseOnline: release?.online ?? true,
    caps: row.caps,
  }),
  dateChanges: ({ subject, workingHoursId, date, hours }) => ({
    ...ofSubject(subject),
    workingHoursId: workingHoursId,
    date,
    cancelled: hours === null,
    siteId: hours?.siteId ?? null,
    fromMinute: hours?.fromMinute ?? null,
    toMinute: hours?.toMinute ?? null,
    acceptsTypeIds: hours?.accepts.visitTypeIds ?? null,
    acceptsKinds: hours?.accepts.kinds ?? null,
    invitedOnly: hours?.accepts.invitedOnly ?? false,
    online: hours?.online ?? false,
    places: hours?.places ?? 1,
  }),
  timeOff: (row) => ({
    resourceId: row.resourceId,
    siteId: row.siteId,
    coverId: row.coverId ?? null,
    ...ofSpan(row),
  }),
  keptFree: ({ resourceId, siteId, rule, fromMinute, toMinute, note }) => ({
    resourceId: resourceId,
    siteId: siteId,
    ...ofRule(rule),
    fromMinute: fromMinute,
    toMinute: toMinute,
    note: note ?? '',
  }),
  brush: ({ resourceId, siteId, date, fromMinute, toMinute, value }) => ({
    resourceId: resourceId,
    siteId: siteId,
    date,
    fromMinute: fromMinute,
    toMinute: toMinute,
    value,
  }),
  closures: (row) => ({ siteId: row.siteId, ...ofSpan(row) }),
};

/** Hours are put before the changes of their dates, and taken away after them. */
export async function writeChanges(
  em: SqlEntityManager,
  changes: RowChanges,
  by: { at: Date; accountId: string | null; restores: boolean },
): Promise<void> {
  for (const kind of [...ROW_KINDS].reverse()) {
    const ids = changes[kind]?.drop ?? [];
    if (ids.length) await em.nativeDelete(ENTITY[kind], { id: { $in: [...ids] } });
  }
  for (const kind of ROW_KINDS) for (const row of changes[kind]?.put ?? []) await putRow(em, kind, row, by);
}

async function putRow<K extends RowKind>(
  em: SqlEntityManager,
  kind: K,
  row: RowOf<K>,
  by: { at: Date; accountId: string | null; restores: boolean },
): Promise<void> {
  const columns = COLUMNS[kind](row);
  const version = kind === 'workingHours' ? { version: raw('version + 1') } : {};
  if (!(await em.nativeUpdate(ENTITY[kind], { id: row.id }, { ...columns, ...version }))) {
    const made = kind === 'workingHours' ? { createdAt: by.at, createdBy: by.accountId } : {};
    // Strokes lie in the order in which they were painted; one that comes back takes its old place again.
    if (kind === 'brush' && by.restores) await putStrokeBack(em, row as RowOf<'brush'>);
    else await insertRow(em, ENTITY[kind], { ...columns, ...made, id: row.id });
  }
  const siteId = 'subject' in row && row.subject.of === 'resource' ? siteOf(row) : null;
  // Whoever has hours at a site has a lane there.
  if (siteId && 'subject' in row) await insertIfNew(em, ResourceSiteEntity, { resourceId: row.subject.id, siteId });
}

function siteOf(row: RowOf<'workingHours'> | RowOf<'dateChanges'>): string | null {
  return 'siteId' in row ? row.siteId : (row.hours?.siteId ?? null);
}
