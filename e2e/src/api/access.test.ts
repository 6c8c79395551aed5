import { daybookWeek, unfoldWeek } from '@zaguan/contracts/daybook';
import { type Endpoint, ROLES, type Role, scopeOf } from '@zaguan/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { endpointsOf } from '../../../server/src/endpoints.ts';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { inputFor } from '../fixtures/samples.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const ENDPOINTS: Endpoint[] = endpointsOf({ demo: true, proof: true }).map(({ endpoint }) => endpoint);

/** What the access table promises a role, told apart from what the input makes of it. */
function expected(endpoint: Endpoint, role: Role | null): 'let in' | 401 | 403 {
  if (endpoint.access.kind === 'public') return 'let in';
  if (!role) return 401;
  return endpoint.access.kind === 'role' && scopeOf(role, endpoint.access.action) === 'no' ? 403 : 'let in';
}

describe('every endpoint with every role and with none', () => {
  let world: World;
  const clients = new Map<Role | null, Client>();
  beforeAll(async () => {
    world = await makeWorld('access');
    clients.set(null, new Client(world.servers[0].url));
    for (const role of ROLES) clients.set(role, await signedIn(world.servers[0].url, role));
  });
  afterAll(() => world.close());

  const cases = ENDPOINTS.filter(
    (endpoint) => endpoint.answers !== 'stream' && endpoint.name !== 'accounts.signOut',
  ).flatMap((endpoint) =>
    [null, ...ROLES].map((role) => ({ endpoint, role, name: endpoint.name, who: role ?? 'nobody' })),
  );

  it.each(cases)('$name as $who', async ({ endpoint, role }) => {
    const answer = await (clients.get(role) as Client).send(endpoint.method, endpoint.path, inputFor(endpoint));
    const want = expected(endpoint, role);
    expect(answer.status).not.toBe(500);
    if (want === 'let in') {
      // A wrong password is a 401 of its own kind, and a hold needs no right.
      expect(['NotSignedIn', 'StalePage']).not.toContain(answer.error?.tag);
      if (answer.error?.tag === 'NotAllowed') expect(endpoint.access.kind).toBe('role');
    } else expect(answer.status).toBe(want);
  });

  it('covers every endpoint that the server mounts', () => {
    expect(new Set(cases.map(({ name }) => name)).size).toBe(ENDPOINTS.length - 2);
    expect(ENDPOINTS.length).toBeGreaterThan(20);
  });

  it('opens the live line to roles that may see the Daybook, and to nobody else', async () => {
    const answer = await (clients.get(null) as Client).send('get', '/events', {});
    expect(answer.status).toBe(401);
  });

  it('refuses whatever changes something without the session’s token, or from another site', async () => {
    const client = await signedIn(world.servers[0].url, 'coordinator');
    const input = { id: '00000000-0000-4000-8000-000000000000', to: 'arrived', version: 1 };
    expect(
      (await client.send('post', '/appointments/:id/status', input, { 'sec-fetch-site': 'cross-site' })).error?.tag,
    ).toBe('NotAllowed');
    client.csrfToken = '';
    expect((await client.send('post', '/appointments/:id/status', input)).error?.tag).toBe('StalePage');
    client.csrfToken = 'a'.repeat(43);
    expect((await client.send('post', '/appointments/:id/status', input)).error?.tag).toBe('StalePage');
  });

  it('signs out', async () => {
    const client = await signedIn(world.servers[0].url, 'read-only');
    expect((await client.send('post', '/auth/sign-out', {})).status).toBe(200);
    expect((await client.send('get', '/clinic', {})).error?.tag).toBe('NotSignedIn');
  });

  it('keeps a desk bound to one site to that site', async () => {
    const desk = await signedIn(world.servers[0].url, 'front-desk');
    const { data } = await desk.send('get', '/daybook/:date', { date: '2026-12-01' });
    expect((data as { sites: { name: string }[] }).sites.map((site) => site.name)).toEqual(['Canal Row']);
    const week = async (resourceId: string) =>
      unfoldWeek(dataOf(await desk.call(daybookWeek, { resourceId, from: '2026-11-30' })));
    const sites = (await week(PROVIDERS.amaya)).days.flatMap((day) => day.sites.map((site) => site.name));
    expect([...new Set(sites)]).toEqual(['Canal Row']);
    // Who works elsewhere only is not there for this desk, as if there were no such person.
    await world.sql.query('delete from resource_site where resource_id = $1 and site_id = $2', [
      PROVIDERS.dray,
      SITES.canal,
    ]);
    for (const resourceId of [PROVIDERS.dray, '00000000-0000-4000-8000-000000000000'])
      expect(refusalOf(await desk.call(daybookWeek, { resourceId, from: '2026-11-30' })).tag).toBe('NotFound');
  });
});
