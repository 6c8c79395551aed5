import pg from 'pg';
import { budgetOf, firstTimes, householdTimes, MAX_TRIED, type Where } from '@zaguan/core/findTime';
import { ClinicIndex, ClinicStore, type SearchCriteria } from '@zaguan/core/openings';
import { addDays } from '@zaguan/core/time';
import { loadPlan, loadTaken } from '../../server/src/features/openings/openings.sql.ts';
import { on } from '../../server/src/platform/db/statement.ts';
import { BENCH_DAY, demoDatabase } from './clinicDatabase.ts';
import { inTurn, median, type Result, rounded } from './measure.ts';

const ENOUGH = 1_000_000;
const ANSWERS = 12;
/** Households drawn by a fixed row of numbers, beside the one whose members have the fewest starts. */
const DRAWN = 24;

/**
 * Households on the whole demo clinic, at all its sites, against one person's search over the same days (the slowest
 * member's, all their times): four members over 30 days, five over 120.
 */
export async function findTime(serverUrl: string): Promise<Result> {
  const { store, now } = await clinic(serverUrl);
  const siteIds = store.plan.sites.map(({ id }) => id);
  const range = (days: number): Where => ({
    ...{ siteIds, providerIds: null, from: BENCH_DAY, until: addDays(BENCH_DAY, days - 1), weekdays: null },
    ...{ fromMinute: 0, toMinute: 1440, language: null },
  });
  const all = (criteria: SearchCriteria, where: Where) =>
    firstTimes(new ClinicIndex(store, now), criteria, where, ENOUGH);
  const criteriaList = store.plan.visitTypes
    .map(({ id }): SearchCriteria => ({ visitTypeId: id, kind: 'established', channel: 'desk' }))
    .map((criteria) => ({ criteria, starts: all(criteria, range(30)).length }))
    .filter(({ starts }) => starts > 0)
    .sort((a, b) => a.starts - b.starts)
    .map(({ criteria }) => criteria);
  let seed = 1;
  const draw = () => {
    seed = (seed * 48271) % 2147483647;
    return criteriaList[seed % criteriaList.length];
  };
  const figures: Record<string, number> = {};
  let gaveUp = 0;
  for (const [name, members, days, how, mostWaitMin] of [
    ['fourIn30', 4, 30, 'back-to-back', 15],
    ['fiveIn120', 5, 120, 'back-to-back', 15],
    ['fourAtOnceIn30', 4, 30, 'side-by-side', 0],
    ['fiveAtOnceIn120', 5, 120, 'side-by-side', 15],
  ] as const) {
    const where = range(days);
    const ratios: number[] = [];
    for (let i = 0; i <= DRAWN; i++) {
      const asked = i === 0 ? criteriaList.slice(0, members) : Array.from({ length: members }, draw);
      const times: Record<string, number> = inTurn(
        {
          household: () => {
            const requested = { criteriaList: asked, where, how, mostWaitMin };
            if (householdTimes(store, now, requested, ANSWERS, budgetOf(MAX_TRIED)).gaveUp) gaveUp++;
          },
          ...Object.fromEntries(asked.map((criteria, at) => [`one ${at}`, () => all(criteria, where)])),
        },
        { rounds: 3, warm: 1 },
      );
      const { household, ...ones } = times;
      ratios.push(household / Math.max(...Object.values(ones)));
    }
    figures[`${name}Ratio`] = rounded(median(ratios));
    figures[`${name}WorstRatio`] = rounded(Math.max(...ratios));
  }
  return {
    ...figures,
    gaveUp,
    unit: 'times the slowest member’s own search over the same days; at most 30',
    peer: 'one person’s search for all times',
    n: DRAWN + 1,
  };
}

async function clinic(serverUrl: string): Promise<{ store: ClinicStore; now: number }> {
  const pool = new pg.Pool({ connectionString: await demoDatabase(serverUrl), max: 1 });
  const run = on(pool);
  const { rows } = await pool.query<{ now: Date }>(
    "select clock_timestamp() + offset_ms * interval '1 millisecond' as now from domain_clock",
  );
  const dates = { from: BENCH_DAY, until: addDays(BENCH_DAY, 130) };
  const plan = await loadPlan(run, dates);
  const { occupied, visits, holds } = await loadTaken(run, dates, rows[0].now);
  await pool.end();
  return {
    store: new ClinicStore({ ...plan, occupied, visits: [...visits, ...holds] }),
    now: Math.ceil(rows[0].now.getTime() / 60_000),
  };
}
