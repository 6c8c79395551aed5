import { signIn } from '@zaguan/contracts/accounts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_PASSWORD } from '../../../server/src/features/accounts/index.ts';
import { Client, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, passMinutes, type World } from '../fixtures/world.ts';

describe('signing in', () => {
  let world: World;
  let base: string;
  beforeAll(async () => {
    world = await makeWorld('signin', { processes: 2, env: { ZAGUAN_LIMIT_WRITES: '8' } });
    base = world.servers[0].url;
  });
  afterAll(() => world.close());

  it('answers an unknown e-mail like a wrong password', async () => {
    const unknown = await new Client(base).call(signIn, { email: 'nobody@example.com', password: 'x' });
    const wrong = await new Client(base).call(signIn, { email: 'pat@example.com', password: 'x' });
    expect({ ...refusalOf(unknown), requestId: '' }).toEqual({ ...refusalOf(wrong), requestId: '' });
  });

  // NIST SP 800-63B-4 section 3.2.2 (from memory): failed attempts are limited.
  it('locks an account for fifteen minutes at the fifth wrong password, also against the right one', async () => {
    const client = new Client(base);
    for (let i = 0; i < 4; i++)
      expect(refusalOf(await client.call(signIn, { email: 'bo@example.com', password: `wrong ${i}` })).tag).toBe(
        'SignInFailed',
      );
    const fifth = refusalOf(await client.call(signIn, { email: 'bo@example.com', password: 'wrong' }));
    expect(fifth.tag).toBe('AccountLocked');
    const minutes = (Date.parse(String(fifth.facts.until)) - Date.now()) / 60_000;
    expect(minutes).toBeGreaterThan(14);
    expect(minutes).toBeLessThanOrEqual(15);
    expect(refusalOf(await client.call(signIn, { email: 'bo@example.com', password: DEMO_PASSWORD })).tag).toBe(
      'AccountLocked',
    );
    // Real time: moving the domain clock does not end the lock.
    await passMinutes(world, 20);
    expect(refusalOf(await client.call(signIn, { email: 'bo@example.com', password: DEMO_PASSWORD })).tag).toBe(
      'AccountLocked',
    );
    await world.sql.query(
      "update account set locked_until = now() - interval '1 second' where email = 'bo@example.com'",
    );
    expect((await client.call(signIn, { email: 'bo@example.com', password: DEMO_PASSWORD })).status).toBe(200);
  });

  it('stores passwords as Argon2id with at least 19 MiB, 2 passes (OWASP Password Storage Cheat Sheet, from memory)', async () => {
    const { rows } = await world.sql.query<{ password_hash: string }>('select password_hash from account limit 1');
    expect(rows[0].password_hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  });

  it('sends the session cookie as HttpOnly and SameSite, with security headers, and shares it between processes', async () => {
    const answer = await new Client(base).call(signIn, { email: 'ines@example.com', password: DEMO_PASSWORD });
    expect(answer.headers.get('set-cookie')).toMatch(/zaguan_session=.*HttpOnly; SameSite=Lax/);
    expect(answer.headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
    expect(answer.headers.get('referrer-policy')).toBe('no-referrer');
    const client = await signedIn(base, 'coordinator');
    Object.assign(client, { base: world.servers[1].url });
    expect((await client.send('get', '/clinic', {})).status).toBe(200);
  });

  it('limits public calls in the database, so that two processes count together', async () => {
    const statuses: number[] = [];
    for (let i = 0; i < 10; i++)
      statuses.push((await new Client(world.servers[i % 2].url).send('post', '/public/holds', {})).status);
    expect(statuses.filter((status) => status === 400)).toHaveLength(8);
    expect(statuses.slice(8)).toEqual([429, 429]);
  });

  it('shows the demo’s accounts only where the demo runs', async () => {
    const demo = await new Client(base).send('get', '/auth/demo-accounts', {});
    expect((demo.data as { accounts: unknown[] }).accounts).toHaveLength(5);
    const real = await makeWorld('signin_real', { env: { ZAGUAN_DEMO: 'no' } });
    expect((await new Client(real.servers[0].url).send('get', '/auth/demo-accounts', {})).data).toEqual({
      accounts: [],
    });
    await real.close();
  });
});
