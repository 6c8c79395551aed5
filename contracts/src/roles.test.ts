import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { ACTIONS, ROLES, scopeOf } from './roles.ts';

const rows = readFileSync(`${import.meta.dirname}/../../docs/roles.md`, 'utf8')
  .split('\n')
  .filter((line) => line.startsWith('| '))
  .map((line) =>
    line
      .split('|')
      .slice(1, -1)
      .map((cell) => cell.trim()),
  );

it.each(ACTIONS.map((action) => ({ action })))('$action stands in the docs as in the code', ({ action }) => {
  const [, ...scopes] = rows.find(([name]) => name === action) ?? [];
  expect(scopes).toEqual(ROLES.map((role) => scopeOf(role, action).replace('-', ' ')));
});

it('has a column for each role', () => {
  expect(rows[0]).toEqual(['action', ...ROLES]);
});
