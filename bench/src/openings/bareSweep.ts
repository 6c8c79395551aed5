import {
  addRangeInto,
  CELL_MIN,
  copyInto,
  datesFrom,
  emptyMask,
  epochOfCell,
  erodeInto,
  type Mask,
  orInto,
  andInto,
  cellsOf,
  zoneDay,
  type ZoneDay,
  isEmpty,
} from '@zaguan/core/time';
import { cellOfWall } from '@zaguan/core/time';
import { weekdayOf } from '@zaguan/core/time';
import { AROUND_MIN, GRID_MIN, VISIT_MIN, type Workload } from './workload.ts';

interface BareDay {
  readonly day: ZoneDay;
  readonly grid: Mask;
  readonly rooms: readonly Mask[];
  readonly providers: readonly { readonly provider: number; readonly free: Mask }[];
}

/** Free cells of every provider and room, by day and site: all that the bare sweep knows. */
export type BareClinic = readonly BareDay[];

/** Builds the free cells from the workload's rows. */
export function buildBare({ snapshot, from, until }: Workload): BareClinic {
  const providers = new Map(snapshot.resources.filter((r) => r.kind === 'provider').map((r, i) => [r.id, i]));
  const off = new Set(snapshot.timeOff.map((row) => `${row.resourceId}|${row.startDate}`));
  const days: BareDay[] = [];
  const free = new Map<string, Mask[]>();
  const first = zoneDay('UTC', from).number;
  const atSite = new Map(
    snapshot.sites.map((site) => [site.id, datesFrom(from, until).map((date) => zoneDay(site.zone, date))]),
  );
  const siteOf = new Map<string, string[]>();
  for (const session of snapshot.sessions) {
    const key = `${session.subject.id}|${session.siteId}`;
    let masks = free.get(key);
    if (!masks) {
      masks = [];
      free.set(key, masks);
      siteOf.set(session.subject.id, [...(siteOf.get(session.subject.id) ?? []), session.siteId]);
    }
    for (const day of atSite.get(session.siteId) ?? []) {
      if (!session.rule.weekdays.includes(weekdayOf(day.date)) || off.has(`${session.subject.id}|${day.date}`))
        continue;
      masks[day.number - first] ??= emptyMask();
      const mask = masks[day.number - first];
      addRangeInto(mask, cellOfWall(day, session.fromMinute), cellOfWall(day, session.toMinute));
    }
  }
  for (const pool of snapshot.pools)
    for (const room of pool.memberIds) {
      siteOf.set(room, [pool.siteId]);
      free.set(
        `${room}|${pool.siteId}`,
        (atSite.get(pool.siteId) ?? []).map((day) => {
          const mask = emptyMask();
          addRangeInto(mask, 0, day.cells);
          return mask;
        }),
      );
    }
  for (const row of snapshot.occupied)
    for (const siteId of siteOf.get(row.resourceId) ?? []) {
      const site = atSite.get(siteId) ?? [];
      const at = Math.floor((row.start - site[0].start) / 1440);
      for (const day of [site[at], site[at + 1]]) {
        if (!day || row.start >= day.end || row.end <= day.start) continue;
        const mask = free.get(`${row.resourceId}|${siteId}`)?.[day.number - first];
        if (mask) clear(mask, (row.start - day.start) / CELL_MIN, (row.end - day.start) / CELL_MIN);
      }
    }
  for (let i = 0; i < (atSite.get(snapshot.sites[0].id)?.length ?? 0); i++)
    for (const site of snapshot.sites) {
      const day = atSite.get(site.id)?.[i] as ZoneDay;
      const pool = snapshot.pools.find((row) => row.siteId === site.id);
      const grid = emptyMask();
      day.wallOfCell.forEach((minute, cell) => {
        if (minute % GRID_MIN === 0) addRangeInto(grid, cell, cell + 1);
      });
      days.push({
        day,
        grid,
        rooms: (pool?.memberIds ?? []).map((room) => free.get(`${room}|${site.id}`)?.[i] as Mask),
        providers: [...providers].flatMap(([id, provider]) => {
          const mask = free.get(`${id}|${site.id}`)?.[i];
          return mask ? [{ provider, free: mask }] : [];
        }),
      });
    }
  return days;
}

function clear(mask: Mask, from: number, to: number): void {
  for (let cell = Math.max(0, from); cell < to; cell++) mask[cell >>> 5] &= ~(1 << (cell & 31));
}

/** Every start: the room free for all of the visit, and the provider inside it. Calls back with each, in no order of promise. */
export function sweepBare(clinic: BareClinic, found: (provider: number, start: number) => void): void {
  const room = emptyMask();
  const starts = emptyMask();
  const cells = { visit: VISIT_MIN / CELL_MIN, around: AROUND_MIN / CELL_MIN };
  for (const { day, grid, rooms, providers } of clinic) {
    if (!providers.length) continue;
    const some = emptyMask();
    for (const free of rooms) {
      copyInto(room, free);
      erodeInto(room, cells.visit + 2 * cells.around, 0);
      orInto(some, room);
    }
    andInto(some, grid);
    for (const { provider, free } of providers) {
      copyInto(starts, free);
      erodeInto(starts, cells.visit, cells.around);
      andInto(starts, some);
      if (isEmpty(starts)) continue;
      for (const cell of cellsOf(starts)) found(provider, epochOfCell(day, cell));
    }
  }
}
