import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomRecalls } from '../../tests/randomRecalls.ts';
import { secondOpinion } from '../../tests/recallOracle.ts';
import { addDays } from '../time/index.ts';
import { type RecallState, RECALL_STATES } from './codes.ts';
import { concernedBy } from './concerned.ts';
import { judgeRecalls, whyNotRecalled } from './judge.ts';

const runs = Number(process.env.ZAGUAN_RUNS ?? 3000);

describe('recalls', () => {
  it('are what a second opinion, written from nothing, makes of random histories', () => {
    const met = new Map<RecallState, number>();
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const { plans, person, today } = randomRecalls(drawFrom(gen));
        const found = judgeRecalls(plans, person, today);
        let hasThem = false;
        for (const [i, plan] of plans.entries()) {
          const expected = secondOpinion(plan, person, today, hasThem);
          expect({ state: found[i].state, dueOn: found[i].dueOn }).toEqual(expected);
          hasThem ||= expected.state === 'due' || expected.state === 'invited';
          met.set(expected.state, (met.get(expected.state) ?? 0) + 1);
        }
      }),
      { numRuns: runs, endOnFailure: true },
    );
    // A second opinion that never sees a state checks nothing of it.
    if (runs >= 3000) expect([...met.keys()].toSorted()).toEqual([...RECALL_STATES].toSorted());
  });

  it('stay what they are until the date on which they say to look again', () => {
    let looked = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const { plans, person, today } = randomRecalls(drawFrom(gen));
        const found = judgeRecalls(plans, person, today);
        const until = found.reduce<string | null>(
          (first, { lookAgainOn: on }) => (on !== null && (first === null || on < first) ? on : first),
          null,
        );
        for (
          let day = addDays(today, 1), n = 0;
          n < 120 && (until === null || day < until);
          n++, day = addDays(day, 1)
        ) {
          const then = judgeRecalls(plans, person, day);
          expect(then.map(({ state, dueOn }) => ({ state, dueOn }))).toEqual(
            found.map(({ state, dueOn }) => ({ state, dueOn })),
          );
          looked++;
        }
      }),
      { numRuns: Math.ceil(runs / 10), endOnFailure: true },
    );
    expect(looked).toBeGreaterThan(runs / 10);
  });

  it('ask for nobody whom plans can’t concern, by what they count from', () => {
    let spared = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const { plans, person, today } = randomRecalls(drawFrom(gen));
        const of = concernedBy(plans);
        const isConcerned =
          of.everybody ||
          person.completed.some(({ typeId }) => of.typeIds.includes(typeId)) ||
          person.registers.some(({ registerId }) => of.registerIds.includes(registerId)) ||
          person.choices.some(({ planId }) => of.planIds.includes(planId));
        if (isConcerned) return;
        spared++;
        for (const { state } of judgeRecalls(plans, person, today)) expect(state).toBe('not-asked-for');
      }),
      { numRuns: runs, endOnFailure: true },
    );
    expect(spared).toBeGreaterThan(runs / 100);
  });

  it('are explained by the rule that decides: the first that does not pass', () => {
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const { plans, person, today } = randomRecalls(drawFrom(gen));
        const [plan] = plans;
        const [{ by }] = judgeRecalls([plan], person, today);
        const answers = whyNotRecalled(plan, person, today);
        expect(answers.find(({ passed }) => !passed)?.code ?? null).toBe(by);
      }),
      { numRuns: Math.ceil(runs / 5), endOnFailure: true },
    );
  });
});
