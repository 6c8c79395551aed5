import { signIn, signOut } from '@zaguan/contracts/accounts';
import { acceptInvitation, inviteAccount } from '@zaguan/contracts/setup';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { DEMO_PASSWORD } from '../../../server/src/features/accounts/index.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, passMinutes, type World } from '../fixtures/world.ts';

describe('signing in', () => {
  let world: World;
  let base: string;
  beforeAll(async () => {
    world = await makeWorld('signin', { processes: 2, env: { ZAGUAN_LIMIT_WRITES: '8' } });
    base = world.servers[0].url;
  });
  afterAll(() => world.close());
  // Each begins with no tries counted, however the one before it ended.
  beforeEach(() => world.sql.query('delete from rate_limit; delete from attempt'));

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
    await world.sql.query("update attempt set locked_until = now() - interval '1 second'");
    expect((await client.call(signIn, { email: 'bo@example.com', password: DEMO_PASSWORD })).status).toBe(200);
  });

  const wrong = (client: Client, email: string, n: number) => client.call(signIn, { email, password: `wrong ${n}` });

  it('locks an address without an account in the same words: which exist can’t be told', async () => {
    const answers = async (email: string) => {
      const tags: string[] = [];
      for (let i = 0; i < 6; i++) tags.push(refusalOf(await wrong(new Client(base), email, i)).tag);
      return tags;
    };
    expect(await answers('nobody.at.all@example.com')).toEqual(await answers('ines@example.com'));
  });

  it('counts sixteen guesses at once one after the other: five are judged, and the right one after them wins nothing', async () => {
    const email = 'noor@example.com';
    const guesses = Array.from({ length: 16 }, (_, n) => wrong(new Client(world.servers[n % 2].url), email, n));
    const tags = (await Promise.all(guesses)).map((answer) => refusalOf(answer).tag);
    // The fifth locks, whichever it was; none that came later was compared with the password.
    expect(tags.filter((tag) => tag === 'SignInFailed')).toHaveLength(4);
    expect(tags.filter((tag) => tag === 'AccountLocked')).toHaveLength(12);
    const right = await new Client(base).call(signIn, { email, password: DEMO_PASSWORD });
    expect(refusalOf(right).tag).toBe('AccountLocked');
  });

  it('lets nobody be locked out of a device of their own by a stranger', async () => {
    const own = await signedIn(base, 'manager');
    for (let i = 0; i < 6; i++) await wrong(new Client(base), 'noor@example.com', i);
    const right = { email: 'noor@example.com', password: DEMO_PASSWORD };
    expect(refusalOf(await new Client(base).call(signIn, right)).tag).toBe('AccountLocked');
    expect((await own.call(signIn, right)).status).toBe(200);
    // A device of somebody else’s is a stranger here.
    const other = await signedIn(base, 'coordinator');
    expect(refusalOf(await other.call(signIn, right)).tag).toBe('AccountLocked');
  });

  it('ends the live line with the session', async () => {
    const client = await signedIn(base, 'coordinator');
    const line = await fetch(`${base}/api/events`, { headers: { cookie: client.cookieHeader() } });
    expect(line.status).toBe(200);
    const reader = line.body?.getReader();
    const ended = (async () => {
      while (!(await reader?.read())?.done);
      return 'ended';
    })();
    await client.call(signOut, {});
    const late = new Promise((resolve) => setTimeout(() => resolve('still open'), 6_000));
    expect(await Promise.race([ended, late])).toBe('ended');
  });

  it('ends all sessions of an account whose password is set anew, and takes no common one', async () => {
    const manager = await signedIn(base, 'manager');
    const pat = await signedIn(base, 'read-only');
    const { rows } = await world.sql.query<{ id: string }>("select id from account where role = 'read-only'");
    const { link } = dataOf(await manager.call(inviteAccount, { id: rows[0].id }));
    const token = link.split('#')[1];
    const join = (password: string) => new Client(base).call(acceptInvitation, { token, password });
    expect(refusalOf(await join('passwordpassword')).issues).toEqual([{ path: 'password', code: 'password-common' }]);
    expect((await pat.send('get', '/clinic', {})).status).toBe(200);
    expect((await join('seven quiet herons at dusk')).status).toBe(200);
    expect((await pat.send('get', '/clinic', {})).status).toBe(401);
  });

  it('lets a browser keep nothing that concerns patients', async () => {
    const desk = await signedIn(base, 'coordinator');
    for (const path of ['/identity-review', '/today', '/clinic', '/auth/me'])
      expect((await desk.send('get', path, {})).headers.get('cache-control'), path).toBe('no-store');
    const fhir = await fetch(`${base}/fhir/Location`, { headers: { cookie: desk.cookieHeader() } });
    expect(fhir.headers.get('cache-control')).toBe('no-store');
    expect(
      (await new Client(base).send('get', '/public/clinic', { language: 'en' })).headers.get('cache-control'),
    ).toBe('no-store');
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

  // 45 CFR 164.312(a)(2)(iii), automatic logoff (from memory); after how long is our policy: 30 minutes.
  it('is not kept up by what a page asks by itself, and is by what somebody does', async () => {
    const desk = await signedIn(base, 'coordinator');
    const end = async () =>
      (await world.sql.query<{ at: Date }>('select max(expire) as at from web_session')).rows[0].at.getTime();
    const shorten = () =>
      world.sql.query("update web_session set expire = now() + interval '5 minutes' where expire > now()");
    await shorten();
    const before = await end();
    const byItself = await desk.send('get', '/today/count', {}, { 'x-unattended': '1' });
    expect([byItself.status, await end()]).toEqual([200, before]);
    expect(byItself.headers.get('set-cookie')).toBeNull();
    expect((await desk.send('get', '/today/count', {})).status).toBe(200);
    expect(await end()).toBeGreaterThan(before + 20 * 60_000);
  });
});
