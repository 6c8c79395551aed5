import { expect, it } from 'vitest';
import { readConfig } from '../config/config.ts';
import { callerKey } from './address.ts';

it('counts callers by IPv4 address, also when it comes as IPv6, and by IPv6 prefix', () => {
  // RFC 5737 and RFC 3849: addresses for documentation.
  expect(callerKey({ ip: '203.0.113.7' })).toBe('203.0.113.7');
  expect(callerKey({ ip: '::ffff:203.0.113.7' })).toBe('203.0.113.7');
  expect(callerKey({ ip: '2001:db8:1:200::7' })).toBe(callerKey({ ip: '2001:db8:1:2ff:9:9:9:9' }));
  expect(callerKey({ ip: '2001:db8:1:200::7' })).not.toBe(callerKey({ ip: '2001:db8:1:300::7' }));
});

const ENV = { DATABASE_URL: 'postgres://127.0.0.1/x', ZAGUAN_SECRET: 'x'.repeat(40) };

it('does not start with https unless it is said which proxy to believe', () => {
  expect(() => readConfig({ ...ENV, ZAGUAN_HTTPS: 'yes' })).toThrow(/ZAGUAN_TRUSTED_PROXIES/);
  const config = readConfig({ ...ENV, ZAGUAN_HTTPS: 'yes', ZAGUAN_TRUSTED_PROXIES: 'loopback, 10.0.0.0/8, ::1' });
  expect(config.trustedProxies).toEqual(['loopback', '10.0.0.0/8', '::1']);
  expect(readConfig(ENV).trustedProxies).toEqual([]);
  for (const wrong of ['everybody', '10.0.0.0/33', '10.0.0', '1.2.3.4/5/6', '::1/129'])
    expect(() => readConfig({ ...ENV, ZAGUAN_TRUSTED_PROXIES: wrong })).toThrow(/ZAGUAN_TRUSTED_PROXIES/);
});
