import { setStatus } from '@zaguan/contracts/booking';
import type { LiveEvent } from '@zaguan/contracts/daybook';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { endpointsOf } from '../../../server/src/endpoints.ts';
import { dataOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit, MARTA } from '../fixtures/patient.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

/** Opens the live line and collects what comes; gives the milliseconds until the first event that fits. */
async function listen(
  base: string,
  cookie: string,
): Promise<{ next(requested: (event: LiveEvent) => boolean, timeout?: number): Promise<LiveEvent>; close(): void }> {
  const stop = new AbortController();
  const response = await fetch(`${base}/api/events`, { headers: { cookie }, signal: stop.signal });
  const events: LiveEvent[] = [];
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  void (async () => {
    for (;;) {
      const part = await reader?.read().catch(() => undefined);
      if (!part || part.done) return;
      for (const line of part.value.split('\n'))
        if (line.startsWith('data: ')) events.push(JSON.parse(line.slice(6)) as LiveEvent);
    }
  })();
  return {
    async next(requested, timeout = 3000) {
      const until = Date.now() + timeout;
      while (Date.now() < until) {
        const found = events.find(requested);
        if (found) return found;
        await new Promise((resolve) => setTimeout(resolve, 10));
      }
      throw new Error('No such event came.');
    },
    close: () => stop.abort(),
  };
}

describe('the platform', () => {
  let world: World;
  beforeAll(async () => {
    world = await makeWorld('platform', { processes: 2 });
  });
  afterAll(() => world.close());

  it('tells an open page within a second, also on the other process', async () => {
    const desk = await signedIn(world.servers[1].url, 'coordinator');
    const { cookies } = desk as unknown as { cookies: Map<string, string> };
    const line = await listen(world.servers[1].url, [...cookies].map(([name, value]) => `${name}=${value}`).join('; '));
    const { requested } = await bookedVisit(world.servers[0].url, 1);
    const since = Date.now();
    const event = await line.next(
      (each) =>
        each.type === 'day-changed' && each.siteId === SITES.canal && each.date === requested.start.slice(0, 10),
    );
    expect(Date.now() - since).toBeLessThan(1000);
    expect(JSON.stringify(event)).not.toContain(MARTA.givenName);
    line.close();
  });

  it('hands each event on once, whichever process does it', async () => {
    await new Promise((resolve) => setTimeout(resolve, 800));
    const { rows } = await world.sql.query(
      'select count(*)::int as n, count(relayed_at)::int as relayed, (select count(*)::int from event_delivery) as delivered from domain_event',
    );
    expect(rows[0].relayed).toBe(rows[0].n);
    expect(rows[0].delivered).toBe(rows[0].n);
  });

  it('answers health and describes every endpoint as OpenAPI 3.1', async () => {
    const base = world.servers[0].url;
    expect(await (await fetch(`${base}/healthz`)).json()).toEqual({ ok: true, database: 'up' });
    const document = (await (await fetch(`${base}/api/openapi.json`)).json()) as {
      openapi: string;
      paths: Record<string, Record<string, { operationId: string }>>;
    };
    expect(document.openapi).toBe('3.1.0');
    const described = Object.values(document.paths).flatMap((path) =>
      Object.values(path).map((operation) => operation.operationId),
    );
    expect(described.sort()).toEqual(
      endpointsOf({ demo: true, proof: true })
        .map(({ endpoint }) => endpoint.name)
        .sort(),
    );
    expect((await fetch(`${base}/api/docs/`)).status).toBe(200);
    expect((await fetch(`${base}/api/nothing`)).status).toBe(404);
  });

  it('answers broken and oversized bodies with a refusal, not a fault', async () => {
    const send = (body: string) =>
      fetch(`${world.servers[0].url}/api/public/holds`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      });
    expect((await send('{"siteId":')).status).toBe(400);
    expect((await send(JSON.stringify({ x: 'y'.repeat(100_000) }))).status).toBe(400);
  });

  it('lets the database itself refuse a double booking, a place too many and a second place of a device', async () => {
    const { rows } = await world.sql.query<{ resource_id: string; during: string; appointment_id: string }>(
      'select resource_id, during, appointment_id from occupancy limit 1',
    );
    const insert = (place: number, device: boolean) =>
      world.sql.query(
        'insert into occupancy (resource_id, place, places, during, appointment_id, single_device) values ($1, $2, 1, $3, $4, $5)',
        [rows[0].resource_id, place, rows[0].during, rows[0].appointment_id, device],
      );
    await expect(insert(0, false)).rejects.toMatchObject({ code: '23P01', constraint: 'occupancy_no_double_booking' });
    await expect(insert(1, false)).rejects.toMatchObject({ code: '23514', constraint: 'occupancy_within_places' });
    await expect(insert(1, true)).rejects.toMatchObject({ code: '23514', constraint: 'occupancy_within_places' });
  });

  it('keeps patient data, tokens and addresses with ids out of its log', async () => {
    const desk = await signedIn(world.servers[0].url, 'coordinator');
    const { id } = await bookedVisit(world.servers[0].url, 4);
    dataOf(await desk.call(setStatus, { id, to: 'arrived', version: 1 }));
    await desk.send('get', '/daybook/:date', { date: 'not a date, Marta Ruiz' });
    const log = world.servers.map((server) => server.log()).join('\n');
    expect(log).toContain('booking.bookHeld');
    for (const secret of [
      MARTA.givenName,
      MARTA.familyName,
      MARTA.birthDate,
      '5550142',
      '555-0142',
      'itch',
      id,
      desk.csrfToken,
      'zaguan_session',
      'zaguan_browser',
      'open the blue',
    ])
      expect(log).not.toContain(secret);
  });
});
