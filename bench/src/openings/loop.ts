import { datesFrom, weekdayOf } from '@zaguan/core/time';
import { Temporal } from 'temporal-polyfill';
import { AROUND_MIN, GRID_MIN, VISIT_MIN, type Workload } from './workload.ts';

/**
 * The way it is often written: for each provider and date step through the hours on a zone-aware clock and look
 * through the busy rows. Only fit for the smallest size.
 */
export function byCandidate({ snapshot, from, until }: Workload): { provider: number; start: number }[] {
  const found: { provider: number; start: number }[] = [];
  const zone = new Map(snapshot.sites.map((site) => [site.id, site.zone]));
  const busy = new Map<string, { start: number; end: number }[]>();
  for (const row of snapshot.occupied) busy.set(row.resourceId, [...(busy.get(row.resourceId) ?? []), row]);
  const free = (id: string, start: number, end: number) =>
    !(busy.get(id) ?? []).some((row) => row.start < end && row.end > start);
  for (const date of datesFrom(from, until)) {
    for (const hoursRow of snapshot.workingHours) {
      if (!hoursRow.rule.weekdays.includes(weekdayOf(date))) continue;
      if (snapshot.timeOff.some((row) => row.resourceId === hoursRow.subject.id && row.startDate === date)) continue;
      const pool = snapshot.pools.find((row) => row.siteId === hoursRow.siteId);
      let at = Temporal.ZonedDateTime.from({
        ...dateParts(date),
        hour: Math.floor((hoursRow.fromMinute - GRID_MIN) / 60),
        minute: (hoursRow.fromMinute - GRID_MIN) % 60,
        timeZone: zone.get(hoursRow.siteId) ?? 'UTC',
      });
      const day = at.startOfDay();
      const end = day.add({ minutes: 0 }).with({ hour: hoursRow.toMinute / 60 });
      const begin = day.with({ hour: hoursRow.fromMinute / 60 });
      for (; Temporal.ZonedDateTime.compare(at, end) < 0; at = at.add({ minutes: GRID_MIN })) {
        const first = at.add({ minutes: AROUND_MIN });
        const last = first.add({ minutes: VISIT_MIN });
        if (Temporal.ZonedDateTime.compare(first, begin) < 0 || Temporal.ZonedDateTime.compare(last, end) > 0) continue;
        const start = at.epochMilliseconds / 60_000;
        if (!free(hoursRow.subject.id, start + AROUND_MIN, start + AROUND_MIN + VISIT_MIN)) continue;
        if (pool?.memberIds.some((room) => free(room, start, start + VISIT_MIN + 2 * AROUND_MIN)))
          found.push({ provider: Number(hoursRow.subject.id.slice(9)), start });
      }
    }
  }
  return found;
}

function dateParts(date: string): { year: number; month: number; day: number } {
  const [year, month, day] = date.split('-').map(Number);
  return { year, month, day };
}
