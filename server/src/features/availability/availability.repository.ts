import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { type WorkingHours, WorkingHoursEntity } from './availability.entities.ts';

/** Hours of people and things that hold on or after a date, by whose they are. */
export function hoursFrom(em: SqlEntityManager, date: string): Promise<WorkingHours[]> {
  return em.find(
    WorkingHoursEntity,
    { resourceId: { $ne: null }, $or: [{ effectiveUntil: null }, { effectiveUntil: { $gte: date } }] },
    { orderBy: { resourceId: 'asc', effectiveFrom: 'asc', fromMinute: 'asc' } },
  );
}

export function hoursOf(em: SqlEntityManager, resourceId: string): Promise<WorkingHours[]> {
  return em.find(WorkingHoursEntity, { resourceId });
}

export function hoursById(em: SqlEntityManager, id: string): Promise<WorkingHours | null> {
  return em.findOne(WorkingHoursEntity, { id });
}

export async function insertHours(em: SqlEntityManager, hours: WorkingHours): Promise<void> {
  await em.insert(WorkingHoursEntity, hours);
  // A person with hours at a site has a lane there.
  await em.execute('insert into resource_site (resource_id, site_id) values (?, ?) on conflict do nothing', [
    hours.resourceId,
    hours.siteId,
  ]);
}

export async function deleteHours(em: SqlEntityManager, id: string): Promise<void> {
  await em.nativeDelete(WorkingHoursEntity, { id });
}

/** One at a time for each person, so that two new stretches can't overlap each other. */
export async function lockPerson(em: SqlEntityManager, resourceId: string): Promise<void> {
  await em.execute("select pg_advisory_xact_lock(hashtextextended('zaguan.hours:' || ?, 0))", [resourceId]);
}

export async function zoneById(em: SqlEntityManager): Promise<Map<string, string>> {
  const rows = await em.execute<{ id: string; time_zone: string }[]>('select id, time_zone from site');
  return new Map(rows.map((row) => [row.id, row.time_zone]));
}

/** Whether a person may change their own hours: the manager says so in set-up. */
export async function mayEditOwnHours(em: SqlEntityManager, resourceId: string): Promise<boolean> {
  const [row] = await em.execute<{ may: boolean }[]>('select may_edit_own_hours as may from resource where id = ?', [
    resourceId,
  ]);
  return row?.may ?? false;
}

export async function personExists(em: SqlEntityManager, resourceId: string): Promise<boolean> {
  const rows = await em.execute<unknown[]>(
    "select 1 from resource where id = ? and active and kind in ('provider','staff')",
    [resourceId],
  );
  return rows.length > 0;
}

/** Stretches of a person's coming visits at a site. */
export async function comingVisits(
  em: SqlEntityManager,
  resourceId: string,
  siteId: string,
  now: Date,
): Promise<{ start: Date; end: Date }[]> {
  const rows = await em.execute<{ start: string; end: string }[]>(
    `select lower(o.during) as start, upper(o.during) as end from occupancy o join appointment a on a.id = o.appointment_id
     where o.resource_id = ? and a.site_id = ? and upper(o.during) > ?`,
    [resourceId, siteId, now],
  );
  return rows.map((row) => ({ start: new Date(row.start), end: new Date(row.end) }));
}
