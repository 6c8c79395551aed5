import { type ClinicStore, noticeDeadline } from '../openings/index.ts';
import type { ChangedDay } from '../schedule/index.ts';
import { datesFrom, type EpochMinute, type LocalDate } from '../time/index.ts';

/**
 * Days that differ though nothing on them need have changed: notice reckoned in working days ends earlier or later
 * where a day before them became a working day, or is none any more.
 *
 * @param siteIds sites that open or close otherwise than before
 */
export function noticeShifts(
  { before, after, now }: { before: ClinicStore; after: ClinicStore; now: EpochMinute },
  siteIds: readonly string[],
  from: LocalDate,
  until: LocalDate,
): ChangedDay[] {
  const rules = new Map(
    [before, after].flatMap(({ plan }) =>
      plan.policies.flatMap(({ leadWorkingDays: workingDays, leadByMinute: byMinute }) =>
        workingDays === null || byMinute === null
          ? []
          : [[`${workingDays} ${byMinute}`, { workingDays, byMinute }] as const],
      ),
    ),
  );
  if (!rules.size) return [];
  const both = siteIds.filter((id) => [before, after].every(({ plan }) => plan.sites.some((site) => site.id === id)));
  return both.flatMap((siteId) => {
    const tooSoon = (store: ClinicStore, date: LocalDate) =>
      [...rules.values()].map((rule) => {
        const deadline = noticeDeadline(store, store.site(siteId), date, rule);
        return deadline === null || now > deadline;
      });
    return datesFrom(from, until).flatMap((date) => {
      const [was, becomes] = [tooSoon(before, date), tooSoon(after, date)];
      return was.some((each, i) => each !== becomes[i]) ? [{ siteId, date, resourceIds: [] }] : [];
    });
  });
}
