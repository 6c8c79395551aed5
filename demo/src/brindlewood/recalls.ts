import type { RecallPlanDoc } from '@zaguan/contracts/recalls';
import type { Interval } from '@zaguan/core/recalls';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf } from '../random.ts';
import { insertRows } from '../rows.ts';
import { TYPE } from './visitTypeData.ts';

const ANYBODY: RecallPlanDoc['who'] = {
  ...{ ageFrom: null, ageTo: null, sexes: null, languages: null, homeSiteIds: null, codes: null, registerIds: null },
  fields: [],
};
const weeks = (n: number): Interval => ({ n, unit: 'weeks' });
const months = (n: number): Interval => ({ n, unit: 'months' });

const ASTHMA = idOf('register asthma');

const REGISTERS = [
  { id: ASTHMA, name: 'Asthma', note: 'By the condition on record.', rule: { ...ANYBODY, codes: ['J45'] } },
  { id: idOf('register venom'), name: 'Sting reactions', note: '', rule: { ...ANYBODY, codes: ['T63.44'] } },
  { id: idOf('register trial'), name: 'Wants to hear of trials', note: 'Kept by the front desk.', rule: null },
];

type Plan = Pick<RecallPlanDoc, 'name' | 'when'> &
  Partial<Pick<RecallPlanDoc, 'who' | 'aheadDays' | 'graceDays' | 'quietDays' | 'comingTypeIds'>>;

/** The clinic's recalls, the most pressing first: who is asked by one of them is left alone by those below. */
const PLANS: readonly Plan[] = [
  {
    name: 'Allergy injections',
    // Build-up injections each week, maintenance every four weeks (Cox et al. 2011, intervals from memory).
    when: {
      ...{ kind: 'build-up', typeIds: [TYPE.injection], steps: [{ visits: 16, every: weeks(1) }] },
      ...{ afterwards: weeks(4), restartAfter: months(6) },
    },
    aheadDays: 3,
    graceDays: 7,
    quietDays: 7,
  },
  {
    name: 'Asthma review',
    when: { kind: 'after-visit', typeIds: [TYPE.asthma], every: months(3) },
    aheadDays: 14,
  },
  {
    name: 'Spirometry',
    when: { kind: 'after-visit', typeIds: [TYPE.spirometry], every: months(12) },
    who: { ...ANYBODY, ageFrom: 6 },
    aheadDays: 42,
    comingTypeIds: [TYPE.spirometry, TYPE.asthma],
  },
  {
    name: 'Action plan and auto-injector',
    when: { kind: 'after-visit', typeIds: [TYPE.call], every: months(12) },
    aheadDays: 42,
    comingTypeIds: [TYPE.call, TYPE.follow],
  },
  {
    name: 'Venom review',
    when: { kind: 'after-visit', typeIds: [TYPE.venom], every: months(12) },
    comingTypeIds: [TYPE.venom, TYPE.follow],
  },
  {
    name: 'Fall checkup for asthma',
    when: { kind: 'season', typeIds: [TYPE.asthma, TYPE.follow], from: '09-15', until: '01-31' },
    who: { ...ANYBODY, registerIds: [ASTHMA] },
  },
];

/** Registers and recall plans; who is due is worked out when the server starts. */
export async function loadRecalls(orm: Orm): Promise<void> {
  await insertRows(
    orm,
    'register',
    REGISTERS.map((register, sortOrder) => ({ ...register, sort_order: sortOrder, active: true })),
  );
  await insertRows(
    orm,
    'recall_plan',
    PLANS.map(({ name, when, who = ANYBODY, aheadDays = 14, graceDays = 30, quietDays = 30, ...rest }, at) => ({
      id: idOf(`recall plan ${name}`),
      name,
      is_on: true,
      rules: { who, when, aheadDays, graceDays, quietDays, comingTypeIds: rest.comingTypeIds ?? null },
      sort_order: at,
      active: true,
    })),
  );
  await insertRows(orm, 'recall_rebuild', [{ id: 1, after_patient_id: null }]);
}
