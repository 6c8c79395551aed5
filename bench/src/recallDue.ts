import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { RecallPlan } from '@zaguan/core/recalls';
import { fillWords, partsOf, textOf } from '@zaguan/core/invitations';
import { planInvitations, type Sending } from '@zaguan/server/features/invitations/plan';
import { writeInvitations } from '@zaguan/server/features/invitations/send';
import { keepRecalls } from '@zaguan/server/features/recalls/index';
import { listedPeople } from '@zaguan/server/features/recalls/recalls.sql';
import type { Orm } from '@zaguan/server/platform/db/orm';
import type { Ctx } from '@zaguan/server/platform/endpoint/context';
import { prepareDatabase } from '@zaguan/server/prepare';
import { startPostgres } from '../../scripts/setup/postgres.mjs';
import { median, type Result, rounded } from './measure.ts';

const SCALE = join(import.meta.dirname, '../../.zaguan/scale/postgres');
const ROUNDS = 30;
const INVITED = 1000;
const WORDS = '{clinic}: {name}, it is time for your next visit. Pick a time: {link}';

type Doc = Omit<RecallPlan, 'id'>;

async function ms(work: () => Promise<unknown>): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** The middle of several, after one that warms up. */
async function often(work: () => Promise<unknown>, rounds = ROUNDS): Promise<number> {
  await work();
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) times.push(await ms(work));
  return median(times);
}

/** The visit type with the most completed visits, so that the plan has many people. */
async function commonType(orm: Orm): Promise<string> {
  const [{ id }] = await orm.em
    .fork()
    .execute<{ id: string }[]>(
      "select visit_type_id as id from appointment where status = 'fulfilled' group by 1 order by count(*) desc limit 1",
    );
  return id;
}

/**
 * A recall plan over as many patients as `npm run scale` made: its first page against 50 rows by index, all who are due and
 * the plan built from nothing against a bare count of the completed visits; 1,000 invitations looked at against writing
 * their words alone, and queued against a bulk insert of as many messages.
 */
export async function recallDue(): Promise<Result> {
  if (!existsSync(SCALE)) throw new Error('First: npm run scale -- --patients 1000000');
  const scale = await startPostgres(SCALE, { durable: false });
  const orm = await prepareDatabase(scale.url);
  try {
    const em = orm.em.fork();
    const planId = randomUUID();
    const typeId = await commonType(orm);
    const anybody = { ageFrom: null, ageTo: null, sexes: null, languages: null, homeSiteIds: null, codes: null };
    const rules: Doc = {
      who: { ...anybody, registerIds: null, fields: [] },
      when: { kind: 'after-visit', typeIds: [typeId], every: { n: 1, unit: 'days' } },
      ...{ aheadDays: 14, graceDays: 30, comingTypeIds: null, quietDays: 0 },
    };
    await em.execute('update recall_plan set is_on = false');
    await em.execute('delete from recall_state');
    await em.execute('insert into recall_plan (id, name, is_on, rules) values (?, ?, true, ?::jsonb)', [
      ...[planId, `Bench ${planId.slice(0, 8)}`, JSON.stringify(rules)],
    ]);
    await em.execute(
      'insert into recall_rebuild (id) values (1) on conflict (id) do update set after_patient_id = null',
    );
    const built = await ms(() => keepRecalls(orm));
    await em.execute('analyze recall_state, appointment');
    const [{ patients, visits, due }] = await em.execute<{ patients: number; visits: number; due: number }[]>(
      `select (select count(*)::int from patient) as patients, (select count(*)::int from appointment where status = 'fulfilled') as visits,
         (select count(*)::int from recall_state where plan_id = ? and state = 'due') as due`,
      [planId],
    );
    const counted = await often(() => em.execute("select count(*) from appointment where status = 'fulfilled'"), 5);
    const page = { planId, state: 'due' as const, homeSiteId: null, after: null, dueBefore: null, limit: 51 };
    const firstPage = await often(() => listedPeople(em, page));
    const byIndex = await often(() => em.execute('select * from patient order by id limit 50'));
    const whole = await often(
      () => em.execute("select patient_id, due_on from recall_state where plan_id = ? and state = 'due'", [planId]),
      5,
    );
    const invitations = await inviting(orm, planId, typeId, rules);
    await em.execute('update recall_plan set is_on = false, active = false where id = ?', [planId]);
    return {
      firstPageRatio: rounded(firstPage / byIndex),
      listRatio: rounded(whole / counted),
      builtRatio: rounded(built / counted),
      ...invitations,
      builtMs: rounded(built),
      unit: 'times as long',
      peer: 'PostgreSQL: 50 rows by index; a count of the completed visits; one bulk insert',
      ...{ patients, visits, due },
    };
  } finally {
    await orm.close(true);
    scale.stop();
  }
}

/** 1,000 of those who are due: looked at, and queued (taken back each time). */
async function inviting(orm: Orm, planId: string, typeId: string, rules: Doc) {
  const templateId = randomUUID();
  const words = { text: WORDS, subject: '{clinic}', mail: WORDS };
  const limits = { typeIds: [typeId], siteIds: null, providerIds: null, hours: null, fromDate: null, untilDate: null };
  const template = {
    ...{ id: templateId, name: 'Bench', reason: '', words: { en: words, es: words }, sortOrder: 1, active: false },
    rules: { ...limits, deskTimesToo: true, uses: 1, livesDays: 30 },
  };
  await orm.em
    .fork()
    .execute('insert into invitation_template (id, name, rules, words) values (?, ?, ?::jsonb, ?::jsonb)', [
      ...[templateId, template.name, JSON.stringify(template.rules), JSON.stringify(template.words)],
    ]);
  const ids = (
    await orm.em.fork().execute<{ id: string }[]>(
      `select t.patient_id as id from recall_state t where t.plan_id = ? and t.state = 'due'
         and exists (select 1 from patient_contact k where k.patient_id = t.patient_id) limit ${INVITED}`,
      [planId],
    )
  ).map(({ id }) => id);
  const sending: Sending = {
    ...{ templateId, planId, requestId: null, moveId: null, template },
    plan: { id: planId, ...rules },
    clinic: { name: 'Brindlewood', phone: '(312) 555-0100' },
  };
  const ctxOf = (em: ReturnType<Orm['em']['fork']>) =>
    ({
      ...{ em, now: new Date(), linkSecret: 'bench', actor: { kind: 'system' }, newId: () => randomUUID() },
      ...{ addresses: { publicUrl: 'https://clinic.example', mailFrom: 'clinic@example.com' }, wrote: () => undefined },
    }) as unknown as Ctx;
  const preview = await often(() => planInvitations(ctxOf(orm.em.fork()), sending, ids), 10);
  const written = await often(async () => {
    for (const id of ids) partsOf(textOf(fillWords(WORDS, { clinic: id, name: id }), 'en'), 40);
  }, 10);
  class Back extends Error {}
  const backAfter = (work: (em: ReturnType<Orm['em']['fork']>) => Promise<unknown>) =>
    orm.em
      .fork()
      .transactional(async (em) => {
        await work(em as never);
        throw new Back();
      })
      .catch((error: unknown) => {
        if (!(error instanceof Back)) throw error;
      });
  const planned = await planInvitations(ctxOf(orm.em.fork()), sending, ids);
  const queued = await often(() => backAfter((em) => writeInvitations(ctxOf(em), sending, planned)), 10);
  const bulk = await often(
    () =>
      backAfter((em) =>
        em.execute(
          `insert into message (id, channel, kind, language, body, send_at, not_after, status, next_attempt_at, created_at, contact_point_id)
           select gen_random_uuid(), 'sms', 'reply', 'en', 'x', now(), now(), 'planned', now(), now(), (select id from contact_point limit 1) from generate_series(1, ${ids.length})`,
        ),
      ),
    10,
  );
  await orm.em.fork().execute('delete from invitation_template where id = ?', [templateId]);
  return {
    previewRatio: rounded(preview / written),
    queuedRatio: rounded(queued / bulk),
    invited: planned.filter(({ message }) => message !== null).length,
  };
}
