import { expandWeekly, type WeeklyRule } from '@zaguan/core/recurrence';
import { addDays, type Weekday } from '@zaguan/core/time';
import { makeRandom } from '@zaguan/demo/random';
import { RRuleTemporal } from 'rrule-temporal';
import { inTurn, type Result, rounded } from './measure.ts';

const RULES = 60;
const NAMES = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const FROM = '2026-01-05';
const UNTIL = addDays(FROM, 730);

/** Weekly hours over two years as dates, against `rrule-temporal`. */
export async function recurrence(): Promise<Result> {
  const random = makeRandom(11);
  const rules = Array.from({ length: RULES }, (): WeeklyRule => {
    const weekdays = ([1, 2, 3, 4, 5, 6, 7] as Weekday[]).filter(() => random.chance(0.4));
    return {
      weekdays: weekdays.length ? weekdays : [1],
      everyWeeks: random.int(1, 4),
      anchorDate: FROM,
      effectiveFrom: FROM,
      effectiveUntil: UNTIL,
    };
  });
  const ours = (rule: WeeklyRule) => expandWeekly(rule, FROM, UNTIL);
  const theirs = (rule: WeeklyRule) =>
    new RRuleTemporal({
      rruleString: `DTSTART:${FROM.replaceAll('-', '')}T120000Z\nRRULE:FREQ=WEEKLY;WKST=MO;INTERVAL=${rule.everyWeeks};BYDAY=${rule.weekdays.map((day) => NAMES[day - 1]).join(',')};UNTIL=${UNTIL.replaceAll('-', '')}T235959Z`,
    })
      .all()
      .map((at) => at.toPlainDate().toString());
  for (const rule of rules)
    if (ours(rule).join() !== theirs(rule).join()) throw new Error(`The dates differ for ${JSON.stringify(rule)}.`);
  let dates = 0;
  const ms = inTurn(
    {
      ours: () => {
        for (const rule of rules) dates += ours(rule).length;
      },
      theirs: () => {
        for (const rule of rules) dates += theirs(rule).length;
      },
    },
    { rounds: 5, warm: 2 },
  );
  if (!dates) throw new Error('Nothing was expanded.');
  return { ratio: rounded(ms.theirs / ms.ours), unit: 'times as fast', peer: 'rrule-temporal, same dates', n: RULES };
}
