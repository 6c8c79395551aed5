import type { LocalDate } from '../time/index.ts';
import type { RecallPerson, RecallPlan, Who } from './plan.ts';
import { firstAfter } from './rule.ts';
import { RECALL_RULES } from './rules/index.ts';

/** The rules that ask who somebody is, and nothing of what they have had. */
const WHO_RULES = (['deceased', 'age', 'sex', 'language', 'home-site', 'condition', 'register', 'field'] as const).map(
  (code) => RECALL_RULES[code],
);

/** A plan without a time: only who is asked. */
const onlyWho = (who: Who): RecallPlan => ({
  ...{ id: '', who, aheadDays: 0, graceDays: 0, comingTypeIds: null, quietDays: 0 },
  when: { kind: 'never-seen', after: { n: 1, unit: 'days' } },
});

/**
 * Whether somebody belongs to a register by its rule, and the first later date on which they may begin or cease to,
 * although nothing has happened. Who no longer comes stays on it; who has died does not.
 */
export function meetsWho(
  who: Who,
  person: RecallPerson,
  today: LocalDate,
): { readonly met: boolean; readonly changesOn: LocalDate | null } {
  const plan = onlyWho(who);
  const verdicts = WHO_RULES.filter((rule) => rule.applies(plan)).map((rule) =>
    rule.judge({ plan, person, today, earlier: [], due: { kind: 'nothing', changesOn: null } }),
  );
  return {
    met: verdicts.every(({ passed }) => passed),
    changesOn: firstAfter(
      today,
      verdicts.map(({ changesOn }) => changesOn),
    ),
  };
}
