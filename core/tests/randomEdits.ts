import type { ClinicSnapshot } from '../src/openings/index.ts';
import type { ScheduleEdit, ScheduleRows } from '../src/schedule/index.ts';
import { addDays, type LocalDate, weekdayOf, type Weekday } from '../src/time/index.ts';
import { accepts, type Draw, NURSES, PROVIDERS, release, stretch } from './randomParts.ts';

export function scheduleOf(snapshot: ClinicSnapshot): ScheduleRows {
  const { workingHours, dateChanges, timeOff, keptFree, brush, closures } = snapshot;
  return { workingHours, dateChanges, timeOff, keptFree, brush, closures };
}

/** one random edit of a schedule around a date. */
export function randomEdit(draw: Draw, rows: ScheduleRows, date: LocalDate): ScheduleEdit {
  const near = () => addDays(date, draw.int(-2, 9));
  const person = () => draw.pick([...PROVIDERS, ...NURSES]);
  const span = () => {
    const s = stretch(draw);
    return { startDate: date, startMinute: s.fromMinute, endDate: date, endMinute: s.toMinute };
  };
  const pattern = () => ({
    siteId: draw.pick(['a', 'a', 'b']),
    followsSiteHours: draw.chance(10),
    ...stretch(draw),
    places: 1,
    accepts: accepts(draw),
    online: draw.chance(80),
    release: release(draw),
    caps: [],
    weekdays: [weekdayOf(date), draw.int(1, 7) as Weekday],
    everyWeeks: draw.pick([1, 1, 2, 3]),
    effectiveUntil: null,
  });
  const dateHours = () => {
    const { siteId, fromMinute, toMinute, places, online } = pattern();
    return { siteId, fromMinute, toMinute, places, online, accepts: accepts(draw) };
  };
  const hoursRow = rows.workingHours.length ? draw.pick(rows.workingHours) : null;
  const reach = () =>
    draw.pick([
      { of: 'date', date } as const,
      { of: 'from', date: near() } as const,
      { of: 'from', date: near(), weekday: hoursRow?.rule.weekdays[0] } as const,
      { of: 'all' } as const,
      { of: 'all', weekday: hoursRow?.rule.weekdays[0] } as const,
    ]);
  const edits: (() => ScheduleEdit)[] = [
    () => ({ do: 'add-hours', subject: { of: 'resource', id: person() }, from: near(), pattern: pattern() }),
    () => ({
      do: 'extra-hours',
      subject: { of: 'resource', id: person() },
      date,
      hours: dateHours(),
      splitTimeOff: draw.chance(60),
    }),
    () => {
      const away = person();
      const coverId = draw.pick([null, ...PROVIDERS.filter((id) => id !== away)]);
      return { do: 'time-off', resourceIds: [away], siteId: draw.pick([null, 'a']), reason: '', coverId, ...span() };
    },
    () => {
      const { fromMinute, toMinute, weekdays, everyWeeks } = pattern();
      const rule = { weekdays, everyWeeks, anchorDate: date, effectiveFrom: near(), effectiveUntil: null };
      return { do: 'keep-free', resourceIds: [person()], siteId: null, rule, fromMinute, toMinute, note: '' };
    },
    () => ({
      do: 'brush',
      siteId: 'a',
      strokes: [{ resourceId: person(), date, ...stretch(draw) }],
      value: draw.pick(['shown', 'desk-only', 'by-rule'] as const),
    }),
    () => ({
      do: 'copy-day',
      subject: { of: 'resource', id: person() },
      weekday: weekdayOf(date),
      to: [draw.int(1, 7) as Weekday],
      from: near(),
    }),
    () => ({ do: 'copy-week', of: person(), to: [person()], from: near() }),
    () => ({ do: 'close-site', siteId: 'a', reason: '', ...span() }),
  ];
  if (hoursRow)
    edits.push(
      () => ({
        do: 'change-hours',
        hoursId: hoursRow.id,
        reach: reach(),
        to: draw.chance(50) ? stretch(draw) : pattern(),
      }),
      () => ({ do: 'change-hours', hoursId: hoursRow.id, reach: { of: 'date', date }, to: {}, onDate: near() }),
      () => ({ do: 'end-hours', hoursId: hoursRow.id, reach: reach() }),
    );
  if (rows.timeOff.length) edits.push(() => ({ do: 'drop-time-off', id: draw.pick(rows.timeOff).id }));
  if (rows.keptFree.length)
    edits.push(() => ({ do: 'drop-kept-free', id: draw.pick(rows.keptFree).id, from: draw.pick([null, date]) }));
  if (rows.dateChanges.length) edits.push(() => ({ do: 'drop-date-change', changeId: draw.pick(rows.dateChanges).id }));
  if (rows.closures.length) edits.push(() => ({ do: 'drop-closure', id: rows.closures[0].id }));
  return draw.pick(edits)();
}
