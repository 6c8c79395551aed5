import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PAYER } from '../../tests/smallClinic.ts';
import { type PayerRule, payerTerms } from './payerTerms.ts';

const AT = { visitTypeId: 'visit', siteId: 'site', providerId: 'doctor' };
const at = (more: Partial<PayerRule>): PayerRule => ({ ...PAYER, ...more });

describe('what a payer comes to', () => {
  it('is not accepted while nothing is said (common practice)', () => {
    expect(payerTerms([], 'payer', AT)).toEqual({ accepted: false, referral: false, authorization: false });
    expect(payerTerms([at({ accepted: true, payerId: 'another' })], 'payer', AT).accepted).toBe(false);
  });

  it('is settled by the narrowest level that says something: provider, then site, then visit type', () => {
    const rules = [
      at({ accepted: true }),
      at({ visitTypeId: 'visit', accepted: false }),
      at({ siteId: 'site', accepted: true }),
      at({ providerId: 'doctor', accepted: false }),
    ];
    const accepted = (n: number) => payerTerms(rules.slice(0, n), 'payer', AT).accepted;
    expect([1, 2, 3, 4].map(accepted)).toEqual([true, false, true, false]);
  });

  it('lets a level that says nothing of one question pass it on', () => {
    const rules = [
      at({ accepted: true, referral: true, authorization: true }),
      at({ providerId: 'doctor', referral: false }),
    ];
    expect(payerTerms(rules, 'payer', AT)).toEqual({ accepted: true, referral: false, authorization: true });
  });

  it('does not read levels of others', () => {
    const rules = [
      at({ accepted: true }),
      at({ siteId: 'other', accepted: false }),
      at({ providerId: 'other', accepted: false }),
      at({ visitTypeId: 'other', accepted: false }),
    ];
    expect(payerTerms(rules, 'payer', AT).accepted).toBe(true);
    // A visit without a provider is not bound by what one of them said.
    expect(
      payerTerms([at({ providerId: 'doctor', accepted: true })], 'payer', { ...AT, providerId: null }).accepted,
    ).toBe(false);
  });

  it('is the same in whichever order the rules are kept, and as a table of all eight levels says', () => {
    const level = fc.record({
      visitTypeId: fc.constantFrom(null, 'visit', 'other'),
      siteId: fc.constantFrom(null, 'site', 'other'),
      providerId: fc.constantFrom(null, 'doctor', 'other'),
      accepted: fc.constantFrom(null, true, false),
    });
    const key = (row: { visitTypeId: string | null; siteId: string | null; providerId: string | null }) =>
      `${row.visitTypeId} ${row.siteId} ${row.providerId}`;
    fc.assert(
      fc.property(fc.uniqueArray(level, { selector: key, maxLength: 12 }), fc.integer(), (levels, turn) => {
        const rules = levels.map((row) => at(row));
        // The eight levels written out, narrowest first: no reckoning of narrowness.
        const table = [
          'visit site doctor',
          'null site doctor',
          'visit null doctor',
          'null null doctor',
          'visit site null',
          'null site null',
          'visit null null',
          'null null null',
        ];
        const said = table.map((name) => levels.find((row) => key(row) === name)?.accepted ?? null);
        const cut = rules.length ? Math.abs(turn) % rules.length : 0;
        const turned = [...rules.slice(cut), ...rules.slice(0, cut)];
        expect(payerTerms(turned, 'payer', AT).accepted).toBe(said.find((value) => value !== null) ?? false);
      }),
      { numRuns: 500 },
    );
  });
});
