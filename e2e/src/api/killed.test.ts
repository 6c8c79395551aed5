import { afterAll, beforeAll, expect, it } from 'vitest';
import { type RunningServer, startServer } from '../fixtures/server.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const PEOPLE = 300;
/** More by `ZAGUAN_MESSAGES_EACH=25`. */
const EACH = Number(process.env.ZAGUAN_MESSAGES_EACH ?? 2);
const KILL_EVERY_MS = 2000;

let world: World;
beforeAll(async () => {
  world = await makeWorld('killed', { processes: 0 });
  // A message of its own number for each, some by e-mail, planned one after the other.
  await world.sql.query(
    `insert into contact_point (id, kind, value) select gen_random_uuid(), case when n % 8 = 0 then 'email' else 'phone' end, case when n % 8 = 0 then 'person' || n || '@example.org' else '+1999555' || lpad(n::text, 4, '0') end from generate_series(1, $1) as n`,
    [PEOPLE],
  );
  await world.sql.query(
    `insert into message (id, contact_point_id, channel, kind, language, body, send_at, not_after, status, next_attempt_at, created_at)
     select gen_random_uuid(), c.id, case c.kind when 'email' then 'email' else 'sms' end, 'reply', 'en', 'message ' || lpad(n::text, 2, '0') || ' to ' || c.value, now() - interval '1 hour', now() + interval '400 days', 'planned', now() - interval '1 hour', now()
     from generate_series(1, $1) as n cross join contact_point c where c.value like '+1999555%' or c.value like 'person%' order by n, c.value`,
    [EACH],
  );
});
afterAll(() => world.close());

it('loses none of hundreds of messages, shows none twice and keeps each person’s order, killed every two seconds', async () => {
  const waiting = async () =>
    (
      await world.sql.query<{ n: number }>(
        "select count(*)::int as n from message where status = 'planned' and kind = 'reply'",
      )
    ).rows[0].n;
  expect(await waiting()).toBe(PEOPLE * EACH);
  let servers: RunningServer[] = [await startServer(world.url), await startServer(world.url)];
  let kills = 0;
  while ((await waiting()) > 0) {
    await new Promise((resolve) => setTimeout(resolve, KILL_EVERY_MS));
    const [victim, other] = servers;
    victim.process.kill('SIGKILL');
    kills++;
    servers = [other, await startServer(world.url)];
  }
  expect(kills).toBeGreaterThanOrEqual(2);
  const shown = await world.sql.query<{ contact: string; body: string }>(
    `select number as contact, body, seq, 1 as store from simulated.sms union all select address, trim(body), seq, 2 from simulated.mail order by store, seq`,
  );
  expect(shown.rows).toHaveLength(PEOPLE * EACH);
  const byContact = new Map<string, string[]>();
  for (const { contact, body } of shown.rows) byContact.set(contact, [...(byContact.get(contact) ?? []), body.trim()]);
  expect(byContact.size).toBe(PEOPLE);
  for (const [contact, bodies] of byContact)
    expect(bodies).toEqual(
      Array.from({ length: EACH }, (_, n) => `message ${String(n + 1).padStart(2, '0')} to ${contact}`),
    );
  // What the killed ones had not noted is noted by the others: nothing failed, and every text has its receipt.
  const undelivered = async () =>
    (
      await world.sql.query<{ n: number }>(
        "select count(*)::int as n from message where kind = 'reply' and channel = 'sms' and status <> 'delivered'",
      )
    ).rows[0].n;
  for (let i = 0; i < 300 && (await undelivered()) > 0; i++) await new Promise((resolve) => setTimeout(resolve, 200));
  expect(await undelivered()).toBe(0);
  expect(
    (await world.sql.query("select distinct status from message where kind = 'reply' and channel = 'email'")).rows,
  ).toEqual([{ status: 'sent' }]);
  await Promise.all(servers.map((server) => server.stop()));
}, 300_000);
