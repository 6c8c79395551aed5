import fc from 'fast-check';
import { expect, it } from 'vitest';
import { mergeDocs } from './mergeDocs.ts';

const base = { name: 'Canal Row', phone: '1', hours: [{ from: 480 }] };

it('takes over what only the other one changed, and keeps mine', () => {
  expect(mergeDocs(base, { ...base, name: 'Canal' }, { ...base, phone: '2' })).toEqual({
    doc: { ...base, name: 'Canal', phone: '2' },
    taken: ['phone'],
    both: [],
  });
});

it('names what both changed, unless they changed it alike', () => {
  const merged = mergeDocs(base, { ...base, name: 'A', phone: '3' }, { ...base, name: 'B', phone: '3' });
  expect(merged).toEqual({ doc: { ...base, name: 'A', phone: '3' }, taken: [], both: ['name'] });
});

it('does not mind the order of fields', () => {
  const mine = { ...base, hours: [{ from: 480, to: 720 }] };
  expect(mergeDocs(base, mine, { ...base, hours: [{ to: 720, from: 480 }] })).toMatchObject({ taken: [], both: [] });
});

it('compares lists as a whole', () => {
  const mine = { ...base, hours: [{ from: 480 }, { from: 780 }] };
  expect(mergeDocs(base, mine, { ...base, hours: [] }).both).toEqual(['hours']);
});

it('loses nothing of either: every field is mine, theirs, or named', () => {
  const doc = fc.record({ a: fc.nat(2), b: fc.nat(2), c: fc.array(fc.nat(1), { maxLength: 2 }) });
  fc.assert(
    fc.property(doc, doc, doc, (first, mine, theirs) => {
      const merged = mergeDocs(first, mine, theirs);
      for (const field of ['a', 'b', 'c'] as const) {
        const [x, y, z] = [first, mine, theirs].map((each) => JSON.stringify(each[field]));
        const now = JSON.stringify(merged.doc[field]);
        if (y === x) expect(now).toBe(z);
        else expect(now).toBe(y);
        expect(merged.both.includes(field)).toBe(y !== x && z !== x && y !== z);
      }
    }),
    { seed: 7 },
  );
});
