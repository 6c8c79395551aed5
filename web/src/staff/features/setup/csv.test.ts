import type { SetupRecord } from '@zaguan/contracts/setup';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type CsvColumn, type CsvRead, readCsv, toCsv } from './csv.ts';
import type { Refs } from './hooks/useRefs.ts';

const SITES = [
  { value: 'site-1', label: 'Canal Row' },
  { value: 'site-2', label: 'Mesa Court' },
];
const POOLS = [{ value: 'pool-1', label: 'Rooms', siteId: 'site-1' }];
const names = new Map([...SITES, ...POOLS].map(({ value, label }) => [value, label]));
const REFS: Refs = {
  sites: SITES,
  people: [],
  providers: [],
  places: [],
  pools: POOLS,
  poolKinds: [],
  types: [],
  capabilities: [],
  nameOf: (id) => names.get(id ?? '') ?? '',
};
const COLUMNS: CsvColumn[] = [
  { field: 'name', type: 'text' },
  { field: 'siteId', type: 'site' },
  { field: 'poolId', type: 'pool' },
  { field: 'places', type: 'number' },
  { field: 'shown', type: 'yes-no' },
  { field: 'note', type: 'text-or-null' },
  { field: 'tags', type: 'words' },
];
const doc = (name: string, more: object = {}) => ({
  name,
  siteId: 'site-1',
  poolId: null,
  places: 1,
  shown: true,
  note: null,
  tags: [],
  ...more,
});
const record = (id: string, of: object): SetupRecord<unknown> =>
  ({ id, version: 3, active: true, doc: of }) as SetupRecord<unknown>;
const blank = () => doc('');
const nameNeeded = (of: Record<string, unknown>) => (of.name ? [] : [{ field: 'name', code: 'needed' }]);
const read = (text: string, records: readonly SetupRecord<unknown>[] = []) =>
  readCsv(text, COLUMNS, records, blank, REFS, nameNeeded);
const rows = (found: CsvRead) => {
  if (!found.ok) throw new Error(found.code);
  return found.rows;
};
const faults = (found: CsvRead) => rows(found).flatMap((row) => row.faults.map((each) => `${row.line} ${each.code}`));

describe('set-up as a CSV file', () => {
  it('writes lines that end with CRLF, and quotes commas, quotes and line breaks (RFC 4180 §2)', () => {
    const text = toCsv(COLUMNS, [record('1', doc('Room "A", left', { note: 'two\nlines', tags: ['x', 'y'] }))], REFS);
    expect(text).toBe(
      'id,name,siteId,poolId,places,shown,note,tags\r\n1,"Room ""A"", left",Canal Row,,1,yes,"two\nlines",x; y',
    );
  });

  it.each(['=1+1', '+1', '-1', '@SUM(A1)', '\tx'])('marks “%s” so that a spreadsheet reads no formula', (name) => {
    const cell = toCsv([COLUMNS[0]], [record('1', doc(name))], REFS)
      .split('\r\n')[1]
      .slice(2);
    expect(cell.replace(/^"/, '')).toMatch(/^'/);
  });

  it('reads back what it has written, whatever the words', () => {
    const words = fc.string({ maxLength: 30 }).map((text) => text.trim());
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            name: words.filter((text) => text !== ''),
            note: fc.option(words.filter((text) => text !== '')),
            places: fc.integer({ min: -5, max: 999 }),
            shown: fc.boolean(),
            siteId: fc.constantFrom('site-1', 'site-2'),
          }),
          { minLength: 1, maxLength: 8 },
        ),
        (docs) => {
          // A mark of our own before a formula's sign can't be told from one that was typed.
          fc.pre(docs.every(({ name, note }) => ![name, note ?? ''].some((text) => /^'[=+@-]/.test(text))));
          const records = docs.map((each, i) => record(`id-${i}`, doc(each.name, each)));
          const back = rows(read(toCsv(COLUMNS, records, REFS), records));
          expect(back.map((row) => row.doc)).toEqual(records.map((each) => each.doc));
          expect(back.every((row) => !row.isNew && row.version === 3 && !row.faults.length)).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('changes what has the id or the name, and makes the others', () => {
    const records = [record('1', doc('Room 1')), record('2', doc('Room 2'))];
    const found = rows(read('id,name,places\r\n2,Room B,4\r\n,Room 1,5\r\n,Room 3,6\r\n', records));
    expect(found.map(({ id, isNew, doc: of }) => [isNew ? 'new' : id, of.name, of.places])).toEqual([
      ['2', 'Room B', 4],
      ['1', 'Room 1', 5],
      ['new', 'Room 3', 6],
    ]);
  });

  it('tells rooms of the same name apart by their site, and says when it can’t', () => {
    const records = [record('1', doc('Room 1')), record('2', doc('Room 1', { siteId: 'site-2' }))];
    expect(rows(read('name,siteId,places\nRoom 1,Mesa Court,7\n', records))[0]).toMatchObject({
      id: '2',
      isNew: false,
    });
    expect(faults(read('name,places\nRoom 1,7\n', records))).toEqual(['2 csv-ambiguous']);
    const third = read('name,siteId\nRoom 1,mesa court\nRoom 1,Mesa Court\n', records);
    expect(faults(third)).toEqual(['3 csv-twice']);
  });

  it('takes the name for a short name that is not given', () => {
    const withShort = [...COLUMNS, { field: 'shortName', type: 'text' as const }];
    const text = 'name\nSpirometer in the room at the end of the corridor\n';
    const found = readCsv(text, withShort, [], () => doc('', { shortName: '' }), REFS, nameNeeded);
    expect(rows(found)[0].doc.shortName).toBe('Spirometer in the room at the ');
  });

  it('leaves columns alone that the file has not', () => {
    const [row] = rows(read('name,places\nRoom 1,9\n', [record('1', doc('Room 1', { note: 'stays', tags: ['a'] }))]));
    expect(row.doc).toEqual(doc('Room 1', { note: 'stays', tags: ['a'], places: 9 }));
  });

  it('names each fault with its line, and goes on', () => {
    const found = read(
      'name,siteId,poolId,places,shown\nA,Nowhere,,1,yes\nB,Canal Row,Chairs,1,yes\nC,Canal Row,,many,yes\nD,Canal Row,,1,perhaps\n,Canal Row,,1,no\nE,Mesa Court,Rooms,1,\nF,Canal Row,rooms,2,Y\n',
    );
    expect(faults(found)).toEqual([
      '2 no-such-site',
      '3 csv-no-such-pool',
      '4 csv-number',
      '5 csv-yes-no',
      '6 needed',
      // The pool of that name is at another site.
      '7 csv-no-such-pool',
    ]);
    expect(rows(found)[6].doc).toMatchObject({ name: 'F', poolId: 'pool-1', places: 2, shown: true });
  });

  it.each([
    ['', 'csv-empty'],
    ['   \n', 'csv-empty'],
    ['name,places\n', 'csv-empty'],
    ['color\nred\n', 'csv-no-columns'],
    ['name,places\n"A,1\n', 'csv-broken'],
    [`name\n${'A\n'.repeat(501)}`, 'csv-too-many'],
  ])('refuses %j: %s', (text, code) => {
    expect(read(text)).toEqual({ ok: false, code });
  });

  it('names columns it does not know, and reads the others', () => {
    const found = read('\uFEFFname,color\nA,red\n');
    expect(found.ok && found.unknown).toEqual(['color']);
    expect(rows(found)[0].doc.name).toBe('A');
  });
});
