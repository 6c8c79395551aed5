import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fitByTrying } from '../../tests/patientSearchOracle.ts';
import { type Findable, isOneSlip, rankPatients } from './index.ts';

const WHEN = { today: '2026-12-01', order: 'month-first' as const };

const patient = (patientId: string, change: Partial<Findable> = {}): Findable => ({
  patientId,
  recordNumber: `BR-${patientId.padStart(5, '0')}`,
  givenName: 'Gregor',
  familyName: 'Corrigan',
  preferredName: null,
  formerNames: [],
  birthDate: '1984-03-12',
  phones: ['+13125550165'],
  emails: [],
  recency: 0,
  ...change,
});
const found = (text: string, ...patients: Findable[]) =>
  rankPatients(text, patients, WHEN).map(({ patientId, fit }) => `${patientId} ${fit}`);

describe('a patient is found', () => {
  it.each([
    ['gregor corrigan', 'exact'],
    ['Corrigan, Gregor', 'exact'],
    ['gre', 'prefix'],
    ['gre cor', 'prefix'],
    ['cor gre', 'swapped'],
    ['corrigan gregor', 'swapped'],
    ['corrgan', 'slip'],
    ['grgeor cor', 'slip'],
    ['gre cor 0165', 'prefix'],
    ['cor 3/12/1984', 'prefix'],
    ['corrigan 12 march 1984', 'exact'],
    ['gre 1984', 'prefix'],
    ['mar 1984', 'prefix'],
    ['March 1984', 'prefix'],
    ['12MAR1984', 'exact'],
    ['(312) 555-0165', 'exact'],
    ['+1 312 555 0165', 'exact'],
    ['312-555', 'prefix'],
    ['0165', 'prefix'],
    ['br-00007', 'exact'],
    ['7', 'exact'],
    ['BR-000', 'prefix'],
  ])('by %s (%s)', (text, fit) => {
    expect(found(text, patient('7'))).toEqual([`7 ${fit}`]);
  });

  it.each([
    ['', 'nothing'],
    ['g', 'a letter'],
    ['gre gre', 'one word twice'],
    ['crx', 'a short word with a slip'],
    ['crogirn', 'two slips'],
    ['165', 'three figures of the end'],
    ['gre 1985', 'another year'],
    ['apr 1984', 'another month'],
    ['gregor 0166', 'another number'],
    ['%', 'a sign of SQL'],
    ['g_e_or', 'another sign of SQL'],
    ['gre\\', 'not beyond what it begins'],
    ["o'gre", 'a part that is not there'],
  ])('by nothing like “%s” (%s)', (text) => {
    // A backslash is no letter: what is left of it is a beginning.
    expect(found(text, patient('7'))).toEqual(text === 'gre\\' ? ['7 prefix'] : []);
  });

  it('by preferred and former names, with parts of both', () => {
    const named = patient('1', {
      givenName: 'Guadalupe',
      familyName: 'Varga-Ibarra',
      preferredName: 'Lupe',
      formerNames: [{ givenName: '', familyName: 'Delgado' }],
    });
    for (const text of ['lupe', 'lupe ibarra', 'vargaibarra', 'varga ibarra', 'Delgado, Lupe', 'guadalupe delgado'])
      expect(found(text, named)).toEqual(['1 exact']);
  });

  it('by the best of what a text may mean', () => {
    const march = patient('1', { givenName: 'Marcella', birthDate: '1984-07-01' });
    const born = patient('2', { givenName: 'Ada', familyName: 'Lind', phones: [] });
    expect(found('mar 1984', march, born).sort()).toEqual(['1 prefix', '2 prefix']);
  });

  it('in the order of how well it fits, then of what happened last', () => {
    expect(
      found(
        'rosa delgado',
        patient('1', { givenName: 'Delgado', familyName: 'Rosa', recency: 9 }),
        patient('2', { givenName: 'Rosa', familyName: 'Delgato', recency: 9 }),
        patient('3', { givenName: 'Rosalind', familyName: 'Delgado', recency: 1 }),
        patient('4', { givenName: 'Rosa', familyName: 'Delgado', recency: 1 }),
        patient('5', { givenName: 'Rosa', familyName: 'Delgado', recency: 2 }),
        patient('6', { givenName: 'Rosamund', familyName: 'Delgado', recency: 2 }),
      ),
    ).toEqual(['5 exact', '4 exact', '6 prefix', '3 prefix', '1 swapped', '2 slip']);
  });

  it('whatever alphabet the name is written in', () => {
    const names: [string, string, string][] = [
      ['Łukasz', 'Wójcik', 'lukasz wojcik'],
      ['Straße', 'Müller', 'MULLER, strasse'],
      ['Οδυσσέας', 'Παππάς', 'ΟΔΥΣΣΕΑΣ παππας'],
      ['Фёдор', 'Достоевский', 'федор ДОСТ'],
      ['İpek', 'Işık', 'ipek isik'],
      ['שָׁלוֹם', 'כהן', 'שלום כהן'],
      ['مُحَمَّد', 'علي', 'محمد علي'],
      ['राम', 'शर्मा', 'राम शर्मा'],
      ['สมชาย', 'ใจดี', 'สมชาย'],
      ['太郎', '山田', '山田太郎'],
      ['さくら', 'ガルシア', 'ガルシア'],
      ['민준', '김', '김민준'],
      ['გიორგი', 'ბერიძე', 'გიორგი'],
      ['Արմեն', 'Պետրոսյան', 'ԱՐՄԵՆ'],
    ];
    for (const [givenName, familyName, text] of names)
      expect([text, found(text, patient('1', { givenName, familyName })).length]).toEqual([text, 1]);
    expect(found('रमा', patient('1', { givenName: 'राम', familyName: 'शर्मा' }))).toEqual([]);
    expect(found('たか', patient('1', { givenName: 'たが', familyName: '山田' }))).toEqual([]);
  });
});

describe('against trying everything', () => {
  const letters = fc.string({ unit: fc.constantFrom(...'aben'), minLength: 1, maxLength: 6 });
  const name = fc.oneof(
    letters,
    fc.tuple(letters, fc.constantFrom(' ', '-', "'"), letters).map((all) => all.join('')),
  );
  const people = fc.record({
    givenName: name,
    familyName: name,
    preferredName: fc.option(letters),
    formerNames: fc.array(fc.record({ givenName: fc.constant(''), familyName: letters }), { maxLength: 1 }),
  });
  const typed = fc.array(letters, { minLength: 1, maxLength: 3 });

  it('finds the same people, fitting as well', () => {
    fc.assert(
      fc.property(people, typed, (names, words) => {
        fc.pre(words.some((word) => word.length > 1));
        const one = patient('1', names);
        const [hit] = rankPatients(words.join(' '), [one], WHEN);
        expect(hit?.fit ?? null).toBe(fitByTrying(words, one));
      }),
      { numRuns: 600 },
    );
  });

  it('knows one slip from none and from two', () => {
    for (const slip of ['gonzales', 'gonzalz', 'gonzaelz', 'ggonzalez', 'ognzalez', 'gonzale'])
      expect(isOneSlip(slip, 'gonzalez')).toBe(true);
    for (const other of ['gonzalez', 'gonzls', 'gnozaelz', 'gonzalezab'])
      expect(isOneSlip(other, 'gonzalez')).toBe(false);
    expect(isOneSlip('ana', 'ann')).toBe(false);
  });
});
