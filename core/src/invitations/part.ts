import type { InvitationLimits } from '../openings/index.ts';

/** Parts of a day that a patient picks among: a visit starts from the first minute on and before the last. */
export const DAY_PARTS = {
  morning: { fromMinute: 0, toMinute: 720 },
  afternoon: { fromMinute: 720, toMinute: 1020 },
  evening: { fromMinute: 1020, toMinute: 1440 },
} as const;
export type DayPart = keyof typeof DAY_PARTS;

const EVERY_DAY = [1, 2, 3, 4, 5, 6, 7] as const;

/** The same limits, and only that part of the day. */
export function inPart(limits: InvitationLimits, part: DayPart | null): InvitationLimits {
  if (part === null) return limits;
  const { fromMinute, toMinute } = DAY_PARTS[part];
  const hours = (limits.hours ?? [{ weekdays: EVERY_DAY, fromMinute: 0, toMinute: 1440 }]).flatMap((each) => {
    const [from, to] = [Math.max(each.fromMinute, fromMinute), Math.min(each.toMinute, toMinute)];
    return from < to ? [{ weekdays: each.weekdays, fromMinute: from, toMinute: to }] : [];
  });
  return { ...limits, hours };
}
