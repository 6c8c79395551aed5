import type { ClinicSnapshot } from '../src/openings/index.ts';
import type { ScheduleEdit, ScheduleRows } from '../src/schedule/index.ts';
import { addDays, type LocalDate, weekdayOf, type Weekday } from '../src/time/index.ts';
import { accepts, type Draw, NURSES, PROVIDERS, release, stretch } from './randomParts.ts';

export function scheduleOf(snapshot: ClinicSnapshot): ScheduleRows {
  const { sessions, dateChanges, timeOff, keptFree, brush, closures } = snapshot;
  return { sessions, dateChanges, timeOff, keptFree, brush, closures };
}

/** One random act on a schedule around a date. */
export function randomEdit(draw: Draw, rows: ScheduleRows, date: LocalDate): ScheduleEdit {
  const near = () => addDays(date, draw.int(-2, 9));
  const person = () => draw.pick([...PROVIDERS, ...NURSES]);
  const span = () => {
    const s = stretch(draw);
    return { startDate: date, startMinute: s.fromMinute, endDate: date, endMinute: s.toMinute };
  };
  const terms = () => ({
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
    const { siteId, fromMinute, toMinute, places, online } = terms();
    return { siteId, fromMinute, toMinute, places, online, accepts: accepts(draw) };
  };
  const session = rows.sessions.length ? draw.pick(rows.sessions) : null;
  const reach = () =>
    draw.pick([
      { of: 'date', date } as const,
      { of: 'from', date: near() } as const,
      { of: 'from', date: near(), weekday: session?.rule.weekdays[0] } as const,
      { of: 'all' } as const,
      { of: 'all', weekday: session?.rule.weekdays[0] } as const,
    ]);
  const edits: (() => ScheduleEdit)[] = [
    () => ({ do: 'add-hours', subject: { of: 'resource', id: person() }, from: near(), terms: terms() }),
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
      const { fromMinute, toMinute, weekdays, everyWeeks } = terms();
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
  if (session)
    edits.push(
      () => ({
        do: 'change-hours',
        hoursId: session.id,
        reach: reach(),
        to: draw.chance(50) ? stretch(draw) : terms(),
      }),
      () => ({ do: 'change-hours', hoursId: session.id, reach: { of: 'date', date }, to: {}, onDate: near() }),
      () => ({ do: 'end-hours', hoursId: session.id, reach: reach() }),
    );
  if (rows.timeOff.length) edits.push(() => ({ do: 'drop-time-off', id: draw.pick(rows.timeOff).id }));
  if (rows.keptFree.length)
    edits.push(() => ({ do: 'drop-kept-free', id: draw.pick(rows.keptFree).id, from: draw.pick([null, date]) }));
  if (rows.dateChanges.length) edits.push(() => ({ do: 'drop-date-change', changeId: draw.pick(rows.dateChanges).id }));
  if (rows.closures.length) edits.push(() => ({ do: 'drop-closure', id: rows.closures[0].id }));
  return draw.pick(edits)();
}
