import fc from 'fast-check';
import { RRuleTemporal } from 'rrule-temporal';
import { Temporal } from 'temporal-polyfill';
import { describe, expect, it } from 'vitest';
import { smallClinic, ZONE } from '../../tests/smallClinic.ts';
import { ClinicStore, type SearchCriteria } from '../openings/index.ts';
import { addDays, type LocalDate, wallToEpoch, weekdayOf } from '../time/index.ts';
import { budgetOf, seriesTimes, type Where } from './index.ts';

const WISH: SearchCriteria = { visitTypeId: 'visit', kind: 'established', channel: 'desk' };
const NOW = wallToEpoch(ZONE, '2026-06-01' as LocalDate, 600);

function seriesFrom(
  date: LocalDate,
  minute: number,
  repeat: { everyWeeks: number; count: number; toleranceDays: number },
  clinic = smallClinic(),
) {
  const where: Where = {
    ...{ siteIds: ['site'], providerIds: null, from: date, until: date, weekdays: null, language: null },
    ...{ fromMinute: minute, toMinute: minute + 5 },
  };
  const wanted = { criteria: WISH, where, sameProvider: true, ...repeat };
  return seriesTimes(new ClinicStore(clinic), NOW, wanted, 1, budgetOf()).found[0]?.times;
}

/** RFC 5545, 3.8.5.3, by rrule-temporal, which knows nothing of ours: the same weekday and wall-clock hour every n weeks. */
function ruleFrom(date: LocalDate, minute: number, { everyWeeks, count }: { everyWeeks: number; count: number }) {
  const first = Temporal.PlainDate.from(date)
    .toPlainDateTime({ hour: Math.floor(minute / 60), minute: minute % 60 })
    .toZonedDateTime(ZONE);
  return new RRuleTemporal({ freq: 'WEEKLY', interval: everyWeeks, count, dtstart: first as never }).all();
}

describe('a series against RFC 5545', () => {
  it('comes at the instants of its rule, over both changes of clocks', () => {
    let changes = 0;
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 300 }),
        fc.integer({ min: 96, max: 138 }),
        fc.integer({ min: 1, max: 8 }),
        fc.integer({ min: 2, max: 12 }),
        (days, fives, everyWeeks, count) => {
          const date = addDays('2026-06-02' as LocalDate, days);
          if (weekdayOf(date) > 5) return;
          const times = seriesFrom(date, fives * 5, { everyWeeks, count, toleranceDays: 0 });
          const rule = ruleFrom(date, fives * 5, { everyWeeks, count });
          expect(times?.map(({ start }) => start * 60_000)).toEqual(rule.map((each) => each.epochMilliseconds));
          changes += new Set(rule.map((each) => each.offset)).size - 1;
        },
      ),
      { numRuns: 200 },
    );
    expect(changes).toBeGreaterThan(20);
  });

  it('goes around a closure to the nearest day and back to its rhythm (hand-worked calendar, Thanksgiving 2026)', () => {
    // Thursdays from November 12: the 26th is closed; the visit after it is counted from the first, not from the 27th.
    const closed = smallClinic({
      closures: [
        { id: 'c', siteId: 'site', startDate: '2026-11-26', startMinute: 0, endDate: '2026-11-26', endMinute: 1440 },
      ],
    });
    const ask = (toleranceDays: number) =>
      seriesFrom('2026-11-12' as LocalDate, 540, { everyWeeks: 1, count: 4, toleranceDays }, closed)?.map(
        ({ date }) => date,
      );
    expect(ask(0)).toBeUndefined();
    expect(ask(1)?.filter((_, i) => i !== 2)).toEqual(['2026-11-12', '2026-11-19', '2026-12-03']);
    expect(['2026-11-25', '2026-11-27']).toContain(ask(1)?.[2]);
  });
});
