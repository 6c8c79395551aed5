import { type Endpoint, ERROR_TAGS, ROLES, scopeOf } from '@zaguan/contracts';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { endpointsOf } from '../../../server/src/endpoints.ts';
import { inputsOf, type Known, spoiltInputsOf } from '../fixtures/arbitrary.ts';
import { type Answer, Client, signedIn } from '../fixtures/client.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** Requests in all; more by `ZAGUAN_FUZZ=200000`, others by `ZAGUAN_FUZZ_SEED=2`. */
const TOTAL = Number(process.env.ZAGUAN_FUZZ ?? 2_000);
const SEED = Number(process.env.ZAGUAN_FUZZ_SEED ?? 1);

const MOUNTED = endpointsOf({ demo: true, proof: true }).filter(
  // The open line does not end, and who signs out is signed out.
  ({ endpoint }) => endpoint.answers !== 'stream' && endpoint.name !== 'accounts.signOut',
);
const ENDPOINTS: Endpoint[] = MOUNTED.map(({ endpoint }) => endpoint);
/** A wrong try must count: what these write stays though the call is refused. */
const COUNTS_TRIES = new Set(
  MOUNTED.filter((mounted) => 'runWithSession' in mounted || mounted.keepsRefused).map(({ endpoint }) => endpoint.name),
);

/** What only counts calls, hands things on or is looked after by the server itself, whoever calls. */
const NOT_WATCHED = [
  'rate_limit',
  'attempt',
  'known_device',
  'web_session',
  'event_delivery',
  'domain_event',
  'openings_change',
  'recall_stale',
  'recall_state',
  'recall_look',
  'recall_rebuild',
  // Registers with a rule keep themselves.
  'register_member',
  'message',
  'audit_entry',
];

/** What the simulated phones and mailboxes are told comes in later, by itself: it is no work of the call. */
const worksLater = (endpoint: Endpoint) => endpoint.name.startsWith('messages.simulated');

describe('every endpoint, asked at random', () => {
  let world: World;
  let known: Known;
  let offset: string;
  const clients: Client[] = [];
  beforeAll(async () => {
    world = await makeWorld('fuzz');
    const { sql } = world;
    const base = world.servers[0].url;
    offset = (await sql.query<{ offset_ms: string }>('select offset_ms from domain_clock')).rows[0].offset_ms;
    clients.push(new Client(base));
    for (const role of ROLES) clients.push(await signedIn(base, role));
    const ids = await sql.query<{ id: string }>(
      `select id from site union all select id from resource union all select id from visit_type union all select id from working_hours union all
       (select id from patient order by id limit 15) union all (select id from appointment where starts_at > '2026-11-30' order by starts_at limit 25)
       union all select id from intake_form union all select id from consent_form union all (select id from form_response order by id limit 5)`,
    );
    const starts = await sql.query<{ at: Date }>(
      `select starts_at as at from appointment where starts_at > '2026-11-30' order by starts_at limit 20`,
    );
    known = {
      ids: ids.rows.map(({ id }) => id),
      dates: ['2026-11-30', '2026-12-01', '2026-12-02', '2026-12-03', '2026-12-24'],
      instants: starts.rows.map(({ at }) => at.toISOString()),
    };
    // Whatever is written is noted by name within the transaction that writes it: what is rolled back leaves no note.
    await sql.query('create table fuzz_written (what text)');
    await sql.query(
      `create function fuzz_note() returns trigger language plpgsql as $$ begin
         -- What the server clears by itself now and then is no work of the call.
         if current_query() not like '%for update skip locked%' then insert into fuzz_written values (tg_table_name); end if;
         return null;
       end $$`,
    );
    const tables = await sql.query<{ name: string }>(
      `select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
       where n.nspname = 'public' and c.relkind in ('r','p') and not c.relispartition and c.relname <> 'fuzz_written' and c.relname <> all($1)`,
      [NOT_WATCHED],
    );
    expect(tables.rows.length).toBeGreaterThan(40);
    for (const { name } of tables.rows)
      await sql.query(
        `create trigger fuzz_note after insert or update or delete on ${name} for each statement execute function fuzz_note()`,
      );
  }, 120_000);
  afterAll(() => world.close());

  const written = async () =>
    (await world.sql.query<{ n: number }>('select count(*)::int as n from fuzz_written')).rows[0].n;

  /** Whoever may call it, and the patient's browser. */
  function callerOf(endpoint: Endpoint, n: number): Client {
    if (endpoint.access.kind === 'public') return clients[0];
    const able = ROLES.flatMap((role, i) =>
      endpoint.access.kind !== 'role' || scopeOf(role, endpoint.access.action) !== 'no' ? [clients[i + 1]] : [],
    );
    return able[n % able.length];
  }

  /** What every answer must be, whatever was asked. */
  function judge(endpoint: Endpoint, input: unknown, answer: Answer<unknown>): void {
    const asked = () =>
      `${endpoint.name} ${JSON.stringify(input).slice(0, 600)} → ${answer.status} ${answer.text.slice(0, 300)}`;
    if (answer.status >= 500) throw new Error(asked());
    if (answer.status < 400 || endpoint.answers === 'fhir') return;
    // Nothing but the contract's refusals, in their form.
    if (!answer.error || !ERROR_TAGS.includes(answer.error.tag)) throw new Error(`no refusal of ours: ${asked()}`);
  }

  async function sendAll(endpoint: Endpoint, inputs: readonly Record<string, unknown>[], atOnce: number) {
    const statuses = new Map<number, number>();
    for (let i = 0; i < inputs.length; i += atOnce)
      await Promise.all(
        inputs.slice(i, i + atOnce).map(async (input, n) => {
          const answer = await callerOf(endpoint, i + n).send(endpoint.method, endpoint.path, input);
          judge(endpoint, input, answer);
          statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
        }),
      );
    return statuses;
  }

  const mayNotWrite = (endpoint: Endpoint) => !COUNTS_TRIES.has(endpoint.name) && !worksLater(endpoint);
  const spoilt = Math.ceil((TOTAL * 0.8) / ENDPOINTS.length);
  const fits = Math.ceil((TOTAL * 0.2) / ENDPOINTS.length);

  it.each(ENDPOINTS.map((endpoint) => ({ name: endpoint.name, endpoint })))(
    '$name stands what its contract does not allow',
    async ({ endpoint }) => {
      if (!endpoint.params && !endpoint.query && !endpoint.body) return;
      const before = await written();
      const inputs = fc.sample(spoiltInputsOf(endpoint, known), { numRuns: spoilt, seed: SEED });
      const statuses = await sendAll(endpoint, inputs, 8);
      expect([...statuses.values()].reduce((a, b) => a + b)).toBe(spoilt);
      // Where all were refused, nothing may have been written.
      if ([...statuses.keys()].every((status) => status >= 400) && mayNotWrite(endpoint))
        expect(await written()).toBe(before);
    },
  );

  it.each(ENDPOINTS.map((endpoint) => ({ name: endpoint.name, endpoint })))(
    '$name does all of what it allows, or nothing',
    async ({ endpoint }) => {
      const inputs = fc.sample(inputsOf(endpoint, known), { numRuns: fits, seed: SEED + 1 });
      if (endpoint.method === 'get') {
        await sendAll(endpoint, inputs, 8);
        return;
      }
      for (const [n, input] of inputs.entries()) {
        const before = await written();
        const answer = await callerOf(endpoint, n).send(endpoint.method, endpoint.path, input);
        judge(endpoint, input, answer);
        if (answer.status >= 400 && mayNotWrite(endpoint))
          expect([JSON.stringify(input), await written()]).toEqual([JSON.stringify(input), before]);
        // The demo's clock may be moved; the next question is asked in the same present.
        if (worksLater(endpoint)) await world.sql.query('update domain_clock set offset_ms = $1', [offset]);
      }
    },
  );

  it('asked as many as it says, and the server still answers', async () => {
    expect((spoilt + fits) * ENDPOINTS.length).toBeGreaterThanOrEqual(TOTAL);
    expect((await fetch(`${world.servers[0].url}/healthz`)).status).toBe(200);
    expect(world.servers[0].log()).not.toMatch(/unhandled|uncaught/i);
  });
});
