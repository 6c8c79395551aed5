import {
  addDays,
  and,
  CELL_MIN,
  type EpochMinute,
  epochOfCell,
  fullMask,
  isEmpty,
  type LocalDate,
  NO_CELLS,
  or,
  rangeMask,
  wallToEpoch,
} from '../../time/index.ts';
import { andNot } from '../../time/index.ts';
import type { Facts } from '../codes.ts';
import type { Site } from '../../availability/index.ts';
import type { ClinicStore } from '../clinicStore.ts';
import type { Frame } from '../frame.ts';
import type { StartRule } from '../rule.ts';

/** Longer than any run of closed days; past it a clinic that never opens has no working day before. */
const MAX_DAYS_BACK = 60;

/** A working day is one on which the site's desk is open for at least one cell. */
function isWorkingDay(store: Pick<ClinicStore, 'siteDay'>, siteId: string, date: LocalDate): boolean {
  const { open, closed } = store.siteDay(siteId, date);
  return !isEmpty(andNot(open, closed));
}

/** The last instant at which a visit on this date may be booked by "n-th working day before"; `null` if there is none. */
export function noticeDeadline(
  store: Pick<ClinicStore, 'siteDay'>,
  site: Site,
  on: LocalDate,
  by: { readonly workingDays: number; readonly byMinute: number },
): EpochMinute | null {
  let left = by.workingDays;
  let date = on;
  for (let back = 0; left > 0 && back < MAX_DAYS_BACK; back++) {
    date = addDays(date, -1);
    if (isWorkingDay(store, site.id, date)) left--;
  }
  return left > 0 ? null : wallToEpoch(site.zone, date, by.byMinute);
}

function deadline({ index, site, day, policy }: Frame): EpochMinute | null | undefined {
  const by = policy.leadBy.value;
  return by ? noticeDeadline(index, site, day.date, by) : undefined;
}

/** Less notice than the lead time asks: in minutes, or "by a time on the n-th working day before". The stricter wins; exactly at the limit is allowed. */
export const tooSoon: StartRule = {
  code: 'too-soon',
  scope: 'start',
  variesBy: 'date',
  binds: 'online',
  hide: (frame) => {
    const { day, index, policy } = frame;
    const earliest = index.now + policy.leadMin.value;
    const byMinutes =
      policy.leadMin.value > 0 && earliest > day.start
        ? and(fullMask(day.cells), rangeMask(0, Math.ceil((earliest - day.start) / CELL_MIN)))
        : NO_CELLS;
    const until = deadline(frame);
    return until === undefined || (until !== null && index.now <= until)
      ? byMinutes
      : or(byMinutes, fullMask(day.cells));
  },
  facts: (frame, cell) => {
    const { index, policy, day } = frame;
    const start = epochOfCell(day, cell);
    const until = deadline(frame);
    const facts: Facts[] = [];
    if (start < index.now + policy.leadMin.value)
      facts.push({
        by: 'minutes',
        leadMin: policy.leadMin.value,
        level: policy.leadMin.level,
        noticeMin: start - index.now,
      });
    if (until !== undefined && (until === null || index.now > until))
      facts.push({
        by: 'working-days',
        workingDays: policy.leadBy.value?.workingDays ?? 0,
        byMinute: policy.leadBy.value?.byMinute ?? 0,
        level: policy.leadBy.level,
        deadline: until,
      });
    return facts;
  },
};
