import type { LocalDate } from '../time/index.ts';
import type { Reach, ScheduleEdit } from './edits.ts';

/**
 * Acts as they are when they begin on a date at the earliest: recurring ones begin then, those of single dates before it
 * fall away. What a draft is published with.
 */
export function startingFrom(edits: readonly ScheduleEdit[], date: LocalDate): ScheduleEdit[] {
  return edits.flatMap((edit) => starting(edit, date));
}

function starting(edit: ScheduleEdit, date: LocalDate): ScheduleEdit[] {
  const later = (from: LocalDate) => (from > date ? from : date);
  const reach = (of: Exclude<Reach, { of: 'date' }>): Reach => ({
    of: 'from',
    date: of.of === 'from' ? later(of.date) : date,
    ...(of.weekdays && { weekdays: of.weekdays }),
  });
  switch (edit.do) {
    case 'add-hours':
    case 'copy-day':
    case 'copy-week':
      return [{ ...edit, from: later(edit.from) }];
    case 'change-hours':
    case 'end-hours':
      if (edit.reach.of !== 'date') return [{ ...edit, reach: reach(edit.reach) }];
      return edit.reach.date < date ? [] : [edit];
    case 'extra-hours':
      return edit.date < date ? [] : [edit];
    case 'keep-free':
      return [{ ...edit, rule: { ...edit.rule, effectiveFrom: later(edit.rule.effectiveFrom) } }];
    case 'drop-kept-free':
      return [{ ...edit, from: edit.from === null ? date : later(edit.from) }];
    case 'brush': {
      const strokes = edit.strokes.filter((stroke) => stroke.date >= date);
      return strokes.length ? [{ ...edit, strokes }] : [];
    }
    case 'time-off':
    case 'close-site':
      if (edit.endDate < date) return [];
      return [edit.startDate >= date ? edit : { ...edit, startDate: date, startMinute: 0 }];
    case 'drop-date-change':
    case 'drop-time-off':
    case 'drop-closure':
      return [edit];
  }
}
