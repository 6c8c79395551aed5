import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { z } from 'zod';
import { shortDate } from '../../../../shared/time/format.ts';
import { formatMinutes } from './hoursForm.ts';

const span = z.looseObject({ fromMinute: z.number().optional(), toMinute: z.number().optional() });
/** What edits of all kinds may say of themselves; an edit has some of it. */
const about = z.looseObject({
  hoursId: z.string().optional(),
  subject: z.looseObject({ id: z.string() }).optional(),
  resourceIds: z.array(z.string()).optional(),
  strokes: z.array(z.looseObject({ resourceId: z.string(), date: z.string() })).optional(),
  of: z.string().optional(),
  siteId: z.string().nullish(),
  date: z.string().optional(),
  startDate: z.string().optional(),
  pattern: span.optional(),
  hours: span.optional(),
  to: z.union([span, z.array(z.unknown())]).optional(),
});
const MAX_NAMES = 3;

/** Whom an edit is about, when, and which times: what tells it from another one of its kind. */
export function editAbout(edit: object, week: ScheduleWeek, name: (id: string | null) => string): string {
  const read = about.safeParse(edit);
  if (!read.success) return '';
  const { hoursId, subject, resourceIds, strokes, of, siteId, date, startDate, pattern, hours, to } = read.data;
  const changed = week.hours.find(({ id }) => id === hoursId);
  const ids = [
    ...(changed ? [changed.subject.id] : []),
    ...(subject ? [subject.id] : []),
    ...(resourceIds ?? []),
    ...new Set((strokes ?? []).map(({ resourceId }) => resourceId)),
    ...(of ? [of] : []),
  ];
  const names = ids.map((id) => name(id)).filter(Boolean);
  const more = names.length > MAX_NAMES ? ` +${names.length - MAX_NAMES}` : '';
  const on = date ?? startDate ?? strokes?.[0]?.date;
  const typed = pattern ?? hours ?? (Array.isArray(to) ? undefined : to);
  const fromMinute = typed?.fromMinute ?? changed?.fromMinute;
  const toMinute = typed?.toMinute ?? changed?.toMinute;
  return [
    names.slice(0, MAX_NAMES).join(', ') + more,
    siteId && !names.length ? name(siteId) : '',
    on ? shortDate(on) : '',
    fromMinute !== undefined && toMinute !== undefined ? formatMinutes({ fromMinute, toMinute }) : '',
  ]
    .filter(Boolean)
    .join(' · ');
}
