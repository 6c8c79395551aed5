import { describe, expect, it } from 'vitest';
import { type IdentityFields, judgeIdentityChange, reasonFits } from './identityChange.ts';

const MIRA: IdentityFields = { givenName: 'Mira', familyName: 'Oakes', birthDate: '1984-03-12' };

describe('a change of name or birth date', () => {
  it.each([
    ['nothing', {}, 'none'],
    ['a slip in the name', { familyName: 'Okes' }, 'ask'],
    ['a slip in the birth date', { birthDate: '1984-03-21' }, 'ask'],
    ['day and month the other way round', { birthDate: '1984-12-03' }, 'ask'],
    ['a new family name', { familyName: 'Vandermeer' }, 'ask'],
    ['a new given name', { givenName: 'Theo' }, 'ask'],
    ['a whole new name', { givenName: 'Theo', familyName: 'Vandermeer' }, 'ask'],
    ['another birth date alone', { birthDate: '1971-08-30' }, 'ask'],
    ['a sibling: another given name and birth date', { givenName: 'Theo', birthDate: '1987-08-30' }, 'someone-else'],
    ['a parent: another family name and birth date', { familyName: 'Brandt', birthDate: '1955-08-30' }, 'someone-else'],
    ['names in each other’s field', { givenName: 'Oakes', familyName: 'Mira' }, 'ask'],
  ] as const)('judges %s', (_what, change, verdict) => {
    expect(judgeIdentityChange(MIRA, { ...MIRA, ...change })).toBe(verdict);
  });

  it('is the same both ways', () => {
    const others = [
      { ...MIRA, familyName: 'Vandermeer' },
      { ...MIRA, givenName: 'Theo', birthDate: '1987-08-30' },
      { givenName: '', familyName: 'Oakes', birthDate: '1984-03-12' },
    ];
    for (const other of others) expect(judgeIdentityChange(other, MIRA)).toBe(judgeIdentityChange(MIRA, other));
  });

  it('takes no new birth date for a new name', () => {
    const born = { ...MIRA, birthDate: '1984-03-13' };
    expect(reasonFits('new-name', MIRA, { ...MIRA, familyName: 'Brandt' })).toBe(true);
    expect(reasonFits('new-name', MIRA, born)).toBe(false);
    expect(reasonFits('mistake', MIRA, born)).toBe(true);
  });
});
