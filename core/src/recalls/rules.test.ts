import { expect, it } from 'vitest';
import { RECALL_CODES, type RecallCode } from './codes.ts';
import { isOverdue, judgeRecall, whyNotRecalled } from './judge.ts';
import type { RecallPerson, RecallPlan } from './plan.ts';
import type { RecallCase } from './rule.ts';
import { ANYBODY, aPerson, aPlan } from './samples.ts';

const TODAY = '2026-12-01';
const DONE = { completed: [{ typeId: 'injection', date: '2026-11-01' }] };

interface Row {
  readonly it: string;
  readonly plan?: Partial<RecallPlan>;
  readonly who?: Partial<RecallPlan['who']>;
  readonly person?: Partial<RecallPerson>;
  readonly earlier?: RecallCase['earlier'];
  /** Whether the rule stands in the way. */
  readonly stands: boolean;
}

const yes = (of: Omit<Row, 'stands'>): Row => ({ ...of, stands: true });
const no = (of: Omit<Row, 'stands'>): Row => ({ ...of, stands: false });
const on = (from: string, until: string | null) => ({ registers: [{ registerId: 'venom', from, until }] });
const said = (kind: RecallPerson['choices'][number]['kind'], date: string | null, planId = 'p') => ({
  choices: [{ planId, kind, on: '2026-11-20', date }],
});

/** Just inside, exactly at and just outside of each rule's limit. */
const ROWS: Readonly<Record<RecallCode, readonly Row[]>> = {
  deceased: [yes({ it: 'dead', person: { hasDied: true } }), no({ it: 'alive' })],
  inactive: [yes({ it: 'inactive', person: { isInactive: true } }), no({ it: 'active' })],
  age: [
    yes({ it: 'a day before the birthday', who: { ageFrom: 12 }, person: { birthDate: '2014-12-02' } }),
    no({ it: 'on the birthday', who: { ageFrom: 12 }, person: { birthDate: '2014-12-01' } }),
    no({ it: 'the last day of the age', who: { ageTo: 17 }, person: { birthDate: '2008-12-02' } }),
    yes({ it: 'eighteen today', who: { ageTo: 17 }, person: { birthDate: '2008-12-01' } }),
  ],
  sex: [
    yes({ it: 'another', who: { sexes: ['male'] } }),
    no({ it: 'the one', who: { sexes: ['female'] } }),
    no({ it: 'not on record, asked for so', who: { sexes: ['unknown'] }, person: { sex: null } }),
  ],
  language: [yes({ it: 'another', who: { languages: ['es'] } }), no({ it: 'the one', who: { languages: ['en'] } })],
  'home-site': [
    yes({ it: 'another', who: { homeSiteIds: ['mesa'] } }),
    yes({ it: 'none', who: { homeSiteIds: ['mesa'] }, person: { homeSiteId: null } }),
    no({ it: 'one of them', who: { homeSiteIds: ['mesa', 'canal'] } }),
  ],
  condition: [
    yes({ it: 'another', who: { codes: ['J45'] }, person: { codes: ['J44.9'] } }),
    no({ it: 'one that begins so', who: { codes: ['J45'] }, person: { codes: ['L20.9', 'J45.40'] } }),
    yes({ it: 'a wider one than asked for', who: { codes: ['J45.4'] }, person: { codes: ['J45'] } }),
  ],
  register: [
    yes({ it: 'from tomorrow', who: { registerIds: ['venom'] }, person: on('2026-12-02', null) }),
    no({ it: 'from today', who: { registerIds: ['venom'] }, person: on('2026-12-01', null) }),
    no({ it: 'until today', who: { registerIds: ['venom'] }, person: on('2026-01-01', '2026-12-01') }),
    yes({ it: 'until yesterday', who: { registerIds: ['venom'] }, person: on('2026-01-01', '2026-11-30') }),
  ],
  field: [
    yes({ it: 'no answer', who: { fields: [{ fieldId: 'f', values: ['yes'] }] } }),
    yes({ it: 'another', who: { fields: [{ fieldId: 'f', values: ['yes'] }] }, person: { fields: { f: 'no' } } }),
    no({ it: 'the one', who: { fields: [{ fieldId: 'f', values: ['yes'] }] }, person: { fields: { f: 'yes' } } }),
  ],
  'nothing-to-count-from': [
    yes({ it: 'no visit', person: { completed: [] } }),
    yes({ it: 'one of another type', person: { completed: [{ typeId: 'review', date: '2026-01-01' }] } }),
    no({ it: 'one today', person: { completed: [{ typeId: 'injection', date: TODAY }] } }),
  ],
  'seen-already': [
    yes({
      it: 'today',
      plan: { when: { kind: 'never-seen', after: { n: 1, unit: 'days' } } },
      person: { completed: [{ typeId: 'x', date: TODAY }] },
    }),
    no({
      it: 'never',
      plan: { when: { kind: 'never-seen', after: { n: 1, unit: 'days' } } },
      person: { completed: [] },
    }),
  ],
  done: [
    yes({
      it: 'asked once, and done',
      plan: {
        when: {
          kind: 'on-register',
          registerId: 'venom',
          typeIds: ['injection'],
          after: { n: 1, unit: 'days' },
          every: null,
        },
      },
      person: on('2026-11-01', null),
    }),
    no({
      it: 'done before they were put on it',
      plan: {
        when: {
          kind: 'on-register',
          registerId: 'venom',
          typeIds: ['injection'],
          after: { n: 1, unit: 'days' },
          every: null,
        },
      },
      person: on('2026-11-02', null),
    }),
  ],
  'not-due-yet': [
    yes({ it: 'due tomorrow', person: { completed: [{ typeId: 'injection', date: '2026-11-02' }] } }),
    no({ it: 'due today', person: { completed: [{ typeId: 'injection', date: '2026-11-01' }] } }),
    no({
      it: 'listed ahead from today',
      plan: { aheadDays: 14 },
      person: { completed: [{ typeId: 'injection', date: '2026-11-15' }] },
    }),
    yes({
      it: 'listed ahead from tomorrow',
      plan: { aheadDays: 14 },
      person: { completed: [{ typeId: 'injection', date: '2026-11-16' }] },
    }),
  ],
  declined: [
    yes({ it: 'said no', person: said('declined', null) }),
    no({ it: 'said no to another plan', person: said('declined', null, 'q') }),
  ],
  later: [
    yes({ it: 'until tomorrow', person: said('later', '2026-12-02') }),
    no({ it: 'until today', person: said('later', '2026-12-01') }),
    no({ it: 'for another plan', person: said('later', '2026-12-24', 'q') }),
  ],
  'coming-visit': [
    yes({ it: 'today', person: { coming: [{ typeId: 'injection', date: TODAY }] } }),
    no({
      it: 'yesterday, and nobody said what became of it',
      person: { coming: [{ typeId: 'injection', date: '2026-11-30' }] },
    }),
    no({ it: 'of a type that does not count', person: { coming: [{ typeId: 'review', date: '2026-12-09' }] } }),
    yes({
      it: 'of a type that counts too',
      plan: { comingTypeIds: ['review'] },
      person: { coming: [{ typeId: 'review', date: '2026-12-09' }] },
    }),
  ],
  'being-invited': [
    yes({ it: 'until today', person: { live: [{ planId: 'p', on: '2026-11-01', until: TODAY }] } }),
    no({ it: 'until yesterday', person: { live: [{ planId: 'p', on: '2026-11-01', until: '2026-11-30' }] } }),
    no({ it: 'by another plan', person: { live: [{ planId: 'q', on: '2026-11-01', until: '2026-12-30' }] } }),
  ],
  'invited-lately': [
    yes({ it: '29 days ago, 30 asked for', plan: { quietDays: 30 }, person: { invitedOn: ['2026-11-02'] } }),
    no({ it: '30 days ago', plan: { quietDays: 30 }, person: { invitedOn: ['2026-11-01'] } }),
  ],
  'no-way-to-reach': [
    yes({ it: 'opted out', person: { reach: 'opted-out' } }),
    yes({ it: 'no number and no address', person: { reach: 'none' } }),
    no({ it: 'a number', person: { reach: 'open' } }),
  ],
  'other-plan': [
    yes({ it: 'due by it', earlier: [{ planId: 'q', state: 'due' }] }),
    yes({ it: 'invited by it', earlier: [{ planId: 'q', state: 'invited' }] }),
    no({ it: 'booked by it', earlier: [{ planId: 'q', state: 'booked' }] }),
  ],
};

for (const code of RECALL_CODES)
  it.each(ROWS[code])(`${code}: $it`, ({ plan, who, person, earlier = [], stands }) => {
    const [ofPlan, ofPerson] = [aPlan({ ...plan, who: { ...ANYBODY, ...who } }), aPerson({ ...DONE, ...person })];
    const answer = whyNotRecalled(ofPlan, ofPerson, TODAY, earlier).find((each) => each.code === code);
    expect(answer).toMatchObject({ code, passed: !stands });
    if (stands) expect(judgeRecall(ofPlan, ofPerson, TODAY, earlier).by).toBe(code);
    else expect(judgeRecall(ofPlan, ofPerson, TODAY, earlier).by).not.toBe(code);
  });

it('a date is overdue the day after the grace', () => {
  expect(isOverdue({ graceDays: 14 }, '2026-11-17', TODAY)).toBe(false);
  expect(isOverdue({ graceDays: 14 }, '2026-11-16', TODAY)).toBe(true);
});
