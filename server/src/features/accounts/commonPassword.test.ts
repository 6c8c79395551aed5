import { expect, it } from 'vitest';
import { DEMO_PASSWORD } from './accounts.endpoints.ts';
import { isCommonPassword } from './commonPassword.ts';

const KNOWN = ['Noor Haddad', 'noor@example.com', 'Brindlewood Allergy & Asthma'];

it('refuses what guessers try first, however long it is', () => {
  for (const common of [
    'passwordpassword',
    'Password1234567',
    '123456789012345',
    'qwertyuiopasdfgh',
    'aaaaaaaaaaaaaaaa',
    'noorhaddadnoorhaddad',
    'Brindlewood2026',
  ])
    expect([common, isCommonPassword(common, KNOWN)]).toEqual([common, true]);
});

it('takes a sentence that is nobody else’s, and answers fast for the longest', () => {
  for (const good of [DEMO_PASSWORD, 'seven quiet herons at dusk', 'zaguán con azulejos verdes'])
    expect([good, isCommonPassword(good, KNOWN)]).toEqual([good, false]);
  const from = performance.now();
  isCommonPassword('ab1'.repeat(66), KNOWN);
  expect(performance.now() - from).toBeLessThan(1_000);
});
