import { randomUUID } from 'node:crypto';
import { judgeRecalls, type RecallPlan } from '@zaguan/core/recalls';
import { addDays } from '@zaguan/core/time';
import pg from 'pg';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { makeRandom, type Random } from '../../../demo/src/random.ts';
import { keepRecalls } from '../../../server/src/features/recalls/index.ts';
import { peopleToday } from '../../../server/src/features/recalls/facts.sql.ts';
import { keptPlans } from '../../../server/src/features/recalls/keep.ts';
import { readClock } from '../../../server/src/platform/clock/clock.ts';
import { openOrm, type Orm } from '../../../server/src/platform/db/orm.ts';
import { copyDatabase, databaseUrl } from '../fixtures/cluster.ts';
import { AFTER_FOLLOW_UP, aPatient, aVisit } from '../fixtures/recalls.ts';
import { until } from '../fixtures/until.ts';
import { TEST_DAY } from '../fixtures/world.ts';

/** 500 by `ZAGUAN_RUNS=500`. */
const RUNS = Number(process.env.ZAGUAN_RUNS ?? 60);
const EVENTS = 6;
const PEOPLE = 12;
const ASTHMA = randomUUID();
const BY_HAND = randomUUID();
const TEMPLATE = randomUUID();

const { who: ANYBODY } = AFTER_FOLLOW_UP;
const PLANS: readonly RecallPlan[] = [
  {
    id: randomUUID(),
    who: { ...ANYBODY, ageTo: 40 },
    when: { kind: 'after-visit', typeIds: [TYPES.follow], every: { n: 3, unit: 'months' } },
    ...{ aheadDays: 14, graceDays: 30, comingTypeIds: null, quietDays: 9 },
  },
  {
    id: randomUUID(),
    who: { ...ANYBODY, registerIds: [ASTHMA] },
    when: { kind: 'season', typeIds: [TYPES.follow, TYPES.consult], from: '10-01', until: '01-31' },
    ...{ aheadDays: 0, graceDays: 30, comingTypeIds: [TYPES.consult], quietDays: 0 },
  },
  {
    id: randomUUID(),
    who: ANYBODY,
    when: {
      ...{ kind: 'on-register', registerId: BY_HAND, typeIds: [TYPES.skin] },
      ...{ after: { n: 1, unit: 'months' }, every: { n: 1, unit: 'years' } },
    },
    ...{ aheadDays: 0, graceDays: 30, comingTypeIds: null, quietDays: 0 },
  },
];

let sql: pg.Pool;
let orm: Orm;
let people: string[];
beforeAll(async () => {
  const cluster = { port: inject('clusterPort'), url: '', start: () => undefined, stop: () => undefined };
  const url = await copyDatabase(cluster, 'zaguan_demo', 't_recalls_kept');
  sql = new pg.Pool({ connectionString: databaseUrl(cluster, 't_recalls_kept'), max: 2 });
  orm = await openOrm({ url, connections: 2 });
  await sql.query("insert into register (id, name, rule) values ($1, 'Asthma', $2), ($3, 'By hand', null)", [
    ASTHMA,
    JSON.stringify({ ...ANYBODY, codes: ['J45'] }),
    BY_HAND,
  ]);
  for (const [at, { id, ...rules }] of PLANS.entries())
    await sql.query('insert into recall_plan (id, name, is_on, rules, sort_order) values ($1, $2, true, $3, $4)', [
      ...[id, `Plan ${at}`, JSON.stringify(rules), at],
    ]);
  await sql.query("insert into invitation_template (id, name, rules, words) values ($1, 'Any', '{}', '{}')", [
    TEMPLATE,
  ]);
  people = [];
  for (let i = 0; i < PEOPLE; i++)
    people.push(await aPatient(sql, `Kept${i}`, { birthDate: addDays('1986-11-20', 40 * i) }));
  await rebuild();
});
afterAll(async () => {
  await orm.close(true);
  await sql.end();
});

const rebuild = () =>
  sql.query(
    'insert into recall_rebuild (id, after_patient_id) values (1, null) on conflict (id) do update set after_patient_id = null',
  );

/** The date that the events of a run happen around: the clock goes on from run to run. */
let today = TEST_DAY;

async function happen(random: Random): Promise<string> {
  const person = random.pick(people);
  const date = () => addDays(today, -random.int(0, 200));
  const type = random.pick([TYPES.follow, TYPES.consult, TYPES.skin]);
  const one = (text: string, values: unknown[] = [person]) => sql.query(text, values);
  const lastVisit = '(select id from appointment where patient_id = $1 order by created_at desc, id limit 1)';
  const acts: Record<string, () => Promise<unknown>> = {
    completed: () => aVisit(sql, person, date(), 'fulfilled', type),
    booked: () => aVisit(sql, person, addDays(today, random.int(0, 40)), 'booked', type),
    canceled: () =>
      one(
        `update appointment set status = 'cancelled', cancelled_at = now(), cancel_reason = 'other' where id = ${lastVisit} and status <> 'cancelled'`,
      ),
    fulfilled: () => one(`update appointment set status = 'fulfilled' where id = ${lastVisit} and status = 'booked'`),
    'put under another record': () =>
      one(`update appointment set patient_id = $2 where id = ${lastVisit}`, [person, random.pick(people)]),
    'stopped recalls': () => ledger(person, 'revoked', 'recalls'),
    'stopped messages': () => ledger(person, 'revoked', 'visit-messages'),
    'agreed again': () => ledger(person, 'consented', random.pick(['recalls', 'visit-messages'])),
    died: () => one("update patient set status = 'deceased', deceased_on = $2 where id = $1", [person, today]),
    'came back': () => one("update patient set status = 'active', deceased_on = null where id = $1"),
    inactive: () => one("update patient set status = 'inactive', deceased_on = null where id = $1"),
    'has asthma': () =>
      one(
        "insert into patient_code (id, patient_id, system, code, added_at) values (gen_random_uuid(), $1, 'http://hl7.org/fhir/sid/icd-10-cm', 'J45.40', now()) on conflict do nothing",
      ),
    'has no asthma': () => one('delete from patient_code where patient_id = $1'),
    'no phone': () => one('delete from patient_contact where patient_id = $1'),
    'on the register': () =>
      one(
        "insert into register_member (id, register_id, patient_id, from_date, how) values (gen_random_uuid(), $2, $1, $3, 'hand') on conflict do nothing",
        [person, BY_HAND, date()],
      ),
    'off the register': () =>
      one(
        "update register_member set until_date = greatest(from_date, $2::date) where patient_id = $1 and how = 'hand' and until_date is null",
        [person, today],
      ),
    said: async () => {
      // Somebody who is due, so that it matters what they say.
      const { rows } = await sql.query<{ planId: string; patientId: string }>(
        `select plan_id as "planId", patient_id as "patientId" from recall_state where state = 'due' and patient_id = any($1) order by patient_id, plan_id`,
        [people],
      );
      const { planId, patientId } = rows.length ? random.pick(rows) : { planId: PLANS[0].id, patientId: person };
      await one(
        "insert into recall_choice (id, plan_id, patient_id, kind, date, said_on, said_by, at) values (gen_random_uuid(), $2, $1, $3, $4, $5, 'patient', now())",
        [
          ...[patientId, planId],
          ...random.pick([
            ['later', addDays(today, 90)],
            ['declined', null],
            ['done-elsewhere', date()],
          ]),
          today,
        ],
      );
    },
    invited: async () => {
      const days = random.int(0, 20);
      await one(
        `insert into invitation (id, template_id, patient_id, plan_id, uses_left, invited_on, until_date, expires_at, created_at)
         values (gen_random_uuid(), $2, $1, $3, 1, $4::date, $4::date + $5::int, $4::date + $5::int + 1, now()) on conflict do nothing`,
        [person, TEMPLATE, random.pick([null, ...PLANS.map(({ id }) => id)]), addDays(today, -random.int(0, 10)), days],
      );
    },
    'invitation ended': () =>
      one(
        'update invitation set ended_as = $2, ended_at = now(), version = version + 1 where patient_id = $1 and ended_at is null',
        [person, random.pick(['withdrawn', 'used', 'declined'])],
      ),
    'took back': () => one('update recall_choice set ended_at = now() where patient_id = $1'),
    'plan off or on': async () => {
      await one('update recall_plan set is_on = not is_on where id = $1', [random.pick(PLANS).id]);
      await rebuild();
    },
    'plans swapped': async () => {
      await one('update recall_plan set sort_order = 2 - sort_order where id = any($1)', [PLANS.map(({ id }) => id)]);
      await rebuild();
    },
    'older plan': async () => {
      await one(`update recall_plan set rules = jsonb_set(rules, '{who,ageTo}', $2::jsonb) where id = $1`, [
        PLANS[0].id,
        String(random.int(37, 43)),
      ]);
      await rebuild();
    },
    'home moved': () =>
      one('update patient set home_site_id = $2 where id = $1', [person, random.pick([null, SITES.mesa, SITES.canal])]),
    'time went by': async () => {
      const days = random.int(1, 25);
      today = addDays(today, days);
      await one('update domain_clock set offset_ms = offset_ms + $1 * 86400000.0', [days]);
    },
  };
  const what = random.pick(Object.keys(acts));
  await acts[what]();
  return what;
}

const ledger = (person: string, event: string, purpose: string) =>
  sql.query(
    "insert into contact_ledger (id, contact_point_id, event, purpose, how, at) select gen_random_uuid(), contact_point_id, $2, $3, 'test', clock_timestamp() from patient_contact where patient_id = $1",
    [person, event, purpose],
  );

/** What is kept of these people, and what core works out of their records now. */
async function keptAndNew(): Promise<{ kept: unknown; fresh: unknown }> {
  const em = orm.em.fork();
  const plans = await keptPlans(em);
  const found = await peopleToday(em, people, await readClock(em));
  const fresh = found.flatMap(({ patientId, person, today: day }) =>
    judgeRecalls(
      plans.map(({ plan }) => plan),
      person,
      day,
    ).flatMap(({ state, by, dueOn, lastOn, facts }, i) =>
      state === 'not-asked-for' ? [] : [{ patientId, planId: plans[i].plan.id, state, by, dueOn, lastOn, facts }],
    ),
  );
  const { rows } = await sql.query(
    'select patient_id as "patientId", plan_id as "planId", state, by_code as by, due_on::text as "dueOn", last_on::text as "lastOn", facts from recall_state where patient_id = any($1)',
    [people],
  );
  const inOrder = (all: { patientId: string; planId: string }[]) =>
    all.toSorted((a, b) => (a.patientId + a.planId < b.patientId + b.planId ? -1 : 1));
  return { kept: inOrder(rows), fresh: inOrder(fresh) };
}

it(`the kept list is what core works out from nothing, after any order of ${RUNS * EVENTS} events`, async () => {
  const met = new Set<string>();
  for (let seed = 1; seed <= RUNS; seed++) {
    const random = makeRandom(seed);
    const story: string[] = [];
    for (let i = 0; i < EVENTS; i++) story.push(await happen(random));
    await keepRecalls(orm);
    const { kept, fresh } = await keptAndNew();
    expect({ seed, story, kept }).toEqual({ seed, story, kept: fresh });
    for (const { state } of kept as { state: string }[]) met.add(state);
  }
  // What is never met is not checked.
  expect([...met]).toEqual(expect.arrayContaining(['booked', 'declined', 'due', 'invited', 'left-out', 'not-due']));
}, 300_000);

it('lists everybody of a plan that is saved while the keeper is reading the plans', async () => {
  await keepRecalls(orm);
  const client = await sql.connect();
  const { id: _, when: __, ...rules } = PLANS[0];
  const plan = {
    ...rules,
    id: randomUUID(),
    who: ANYBODY,
    when: { kind: 'never-seen', after: { n: 0, unit: 'days' } },
  };
  let kept: Promise<void>;
  try {
    await client.query('begin');
    await client.query('lock table recall_rebuild in access exclusive mode');
    kept = keepRecalls(orm);
    await until(async () => {
      const { rows } = await sql.query(
        "select 1 from pg_locks where relation = 'recall_rebuild'::regclass and not granted",
      );
      return rows.length > 0;
    }, 'the keeper waits');
    const { id, ...doc } = plan;
    await client.query('insert into recall_plan (id, name, is_on, rules, sort_order) values ($1, $2, true, $3, 9)', [
      ...[id, 'Never seen', JSON.stringify(doc)],
    ]);
    await client.query(
      'insert into recall_rebuild (id, after_patient_id) values (1, null) on conflict (id) do update set after_patient_id = null',
    );
    await client.query('commit');
  } finally {
    client.release();
  }
  await kept;
  const { rows } = await sql.query('select 1 from recall_state where plan_id = $1 limit 1', [plan.id]);
  expect(rows).toHaveLength(1);
});
