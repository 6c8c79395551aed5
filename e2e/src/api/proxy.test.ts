import { publicClinic } from '@zaguan/contracts/clinic';
import { whoAmI } from '@zaguan/contracts/accounts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client, dataOf, signedIn } from '../fixtures/client.ts';
import { startProxy } from '../fixtures/proxy.ts';
import { startServer } from '../fixtures/server.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const READS = 5;

describe('behind a proxy that ends TLS', () => {
  let world: World;
  let proxy: { url: string; stop(): Promise<void> };
  beforeAll(async () => {
    world = await makeWorld('proxy', {
      env: { ZAGUAN_HTTPS: 'yes', ZAGUAN_TRUSTED_PROXIES: 'loopback', ZAGUAN_LIMIT_READS: String(READS) },
    });
    proxy = await startProxy(world.servers[0].url);
  });
  afterAll(async () => {
    await proxy.stop();
    await world.close();
  });

  it('signs in, with a cookie for https only', async () => {
    const desk = await signedIn(proxy.url, 'coordinator');
    expect(dataOf(await desk.call(whoAmI, {})).me?.role).toBe('coordinator');
    const answer = await fetch(`${proxy.url}/`);
    expect(answer.headers.get('strict-transport-security')).toMatch(/max-age/);
  });

  /** How many of so many calls are let through. */
  const letThrough = async (base: string, calls: number, headers: Record<string, string>) => {
    let passed = 0;
    for (let i = 0; i < calls; i++)
      if ((await new Client(base).send('get', publicClinic.path, { language: 'en' }, headers)).status === 200) passed++;
    return passed;
  };

  it('gives each address its own limit, and counts one connection’s IPv6 addresses as one', async () => {
    expect(await letThrough(proxy.url, READS + 3, { 'x-test-address': '203.0.113.1' })).toBe(READS);
    expect(await letThrough(proxy.url, READS + 3, { 'x-test-address': '203.0.113.2' })).toBe(READS);
    // Claiming to be someone else helps nobody: only the last address is the proxy's own word.
    expect(await letThrough(proxy.url, 2, { 'x-test-address': '203.0.113.1', 'x-forwarded-for': '203.0.113.99' })).toBe(
      0,
    );
    let passed = 0;
    for (let i = 0; i < READS + 3; i++)
      passed += await letThrough(proxy.url, 1, { 'x-test-address': `2001:db8:7:0:${i}::1` });
    expect(passed).toBe(READS);
  });

  it('believes nobody else: a caller that comes by another way is counted by its own address', async () => {
    const other = await startServer(world.url, {
      ZAGUAN_TRUSTED_PROXIES: '192.0.2.1',
      ZAGUAN_LIMIT_READS: String(READS),
    });
    await world.sql.query('delete from rate_limit');
    let passed = 0;
    for (let i = 0; i < READS + 3; i++)
      passed += await letThrough(other.url, 1, { 'x-forwarded-for': `203.0.113.${50 + i}` });
    expect(passed).toBe(READS);
    await other.stop();
  });
});
