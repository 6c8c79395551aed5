import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findCandidates, type Identity, jaroWinkler, LIKELY, sureMatch } from './index.ts';
// @ts-expect-error talisman ships no types
import theirs from 'talisman/metrics/jaro-winkler.js';

describe('Jaro–Winkler', () => {
  /** Winkler's table of 1990 as it is commonly reprinted (from memory), to three places. */
  it.each([
    ['MARTHA', 'MARHTA', 0.961],
    ['DWAYNE', 'DUANE', 0.84],
    ['DIXON', 'DICKSONX', 0.813],
    ['SHACKLEFORD', 'SHACKELFORD', 0.982],
    ['DUNNINGHAM', 'CUNNIGHAM', 0.896],
    ['NICHLESON', 'NICHULSON', 0.956],
    ['JONES', 'JOHNSON', 0.832],
    ['MASSEY', 'MASSIE', 0.933],
    ['ABROMS', 'ABRAMS', 0.922],
    ['JERALDINE', 'GERALDINE', 0.926],
    ['MICHELLE', 'MICHAEL', 0.921],
    ['JULIES', 'JULIUS', 0.933],
    ['TANYA', 'TONYA', 0.88],
    ['SEAN', 'SUSAN', 0.805],
    ['JON', 'JOHN', 0.933],
    ['JON', 'JAN', 0.8],
  ])('%s and %s', (a, b, value) => {
    expect(jaroWinkler(a, b)).toBeCloseTo(value, 2);
  });
  it('agrees with talisman on random names, and is the same both ways', () => {
    const name = fc.string({ unit: fc.constantFrom('a', 'b', 'c', 'd', 'e'), minLength: 1, maxLength: 9 });
    fc.assert(
      fc.property(name, name, (a, b) => {
        expect(jaroWinkler(a, b)).toBeCloseTo((theirs as (a: string, b: string) => number)(a, b), 6);
        expect(jaroWinkler(a, b)).toBeCloseTo(jaroWinkler(b, a), 10);
      }),
      { numRuns: 500 },
    );
  });
});

const ROSA: Identity & { patientId: string } = {
  patientId: 'rosa',
  givenName: 'Rosa',
  familyName: 'Delgado',
  birthDate: '1987-03-04',
  contacts: ['+13125550177'],
};
const typed = (change: Partial<Identity> = {}): Identity => ({ ...ROSA, ...change });
const fieldsOf = (change: Partial<Identity>) => findCandidates(typed(change), [ROSA])[0]?.fields;

describe('candidates for a person', () => {
  it('says of each field whether it agrees, is alike, differs or is unknown', () => {
    expect(fieldsOf({})).toEqual({
      'family-name': 'agrees',
      'given-name': 'agrees',
      'birth-date': 'agrees',
      contact: 'agrees',
    });
    expect(fieldsOf({ familyName: 'Smith', contacts: ['+13125550100'] })).toEqual({
      'family-name': 'differs',
      'given-name': 'agrees',
      'birth-date': 'agrees',
      contact: 'differs',
    });
    expect(fieldsOf({ familyName: 'Delgadó', givenName: 'ROSA ', contacts: [] })).toMatchObject({
      'family-name': 'agrees',
      'given-name': 'agrees',
      contact: 'unknown',
    });
    expect(fieldsOf({ familyName: 'Delgdao', birthDate: '1987-04-03' })).toMatchObject({
      'family-name': 'alike',
      'birth-date': 'alike',
    });
    expect(fieldsOf({ givenName: 'Delgado', familyName: 'Rosa' })).toMatchObject({
      'family-name': 'alike',
      'given-name': 'alike',
    });
  });
  it('puts the likeliest first and leaves strangers out', () => {
    const twin = { ...ROSA, patientId: 'twin', givenName: 'Ramona' };
    const stranger = {
      ...ROSA,
      patientId: 'x',
      givenName: 'Ivo',
      familyName: 'Xu',
      birthDate: '1950-11-30',
      contacts: ['+13125550101'],
    };
    const found = findCandidates(typed(), [stranger, twin, ROSA]);
    expect(found.map((each) => each.patientId)).toEqual(['rosa', 'twin']);
    expect(found[0].weight).toBeGreaterThan(LIKELY);
  });
  it('is sure only of one exact candidate whose verified contact was just verified', () => {
    const one = findCandidates(typed(), [ROSA]);
    expect(sureMatch(one, new Set(['rosa']))).toBe('rosa');
    expect(sureMatch(one, new Set())).toBeNull();
    const double = findCandidates(typed(), [ROSA, { ...ROSA, patientId: 'double' }]);
    expect(sureMatch(double, new Set(['rosa', 'double']))).toBeNull();
    expect(sureMatch(findCandidates(typed({ familyName: 'Delgdao' }), [ROSA]), new Set(['rosa']))).toBeNull();
  });
});
