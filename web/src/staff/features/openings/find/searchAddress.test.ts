import { ACCESS } from '@zaguan/core/availability';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { addressOf, type SearchBounds, searchOf } from './searchAddress.ts';
import { EVERY_DAY, HOURS, type HoursName, type TypedSearch } from './typed.ts';

const bounds: SearchBounds = {
  visitTypeIds: ['check', 'shot'],
  siteIds: ['mesa', 'canal'],
  providerIds: ['dray', 'lund'],
  languages: ['en', 'es'],
  today: '2026-12-01',
};

const search: fc.Arbitrary<TypedSearch> = fc
  .record({
    members: fc.array(
      fc.record({
        visitTypeId: fc.constantFrom(...bounds.visitTypeIds),
        kind: fc.constantFrom('new' as const, 'established' as const),
        patientId: fc.option(fc.uuid()),
      }),
      { minLength: 1, maxLength: 5 },
    ),
    channel: fc.constantFrom('desk' as const, 'online' as const),
    siteIds: fc.subarray([...bounds.siteIds]),
    providerIds: fc.subarray([...bounds.providerIds]),
    from: fc.constantFrom('', '2026-12-01', '2027-02-28'),
    days: fc.integer({ min: 1, max: 120 }),
    weekdays: fc.subarray(EVERY_DAY),
    hours: fc.constantFrom(...(Object.keys(HOURS) as HoursName[])),
    language: fc.constantFrom('', ...bounds.languages),
    access: fc.subarray([...ACCESS]),
    how: fc.constantFrom('back-to-back' as const, 'side-by-side' as const),
    mostWaitMin: fc.integer({ min: 0, max: 240 }),
    repeats: fc.boolean(),
    everyWeeks: fc.integer({ min: 1, max: 26 }),
    count: fc.integer({ min: 2, max: 12 }),
    toleranceDays: fc.integer({ min: 0, max: 7 }),
    sameProvider: fc.boolean(),
  })
  // What a series would be is forgotten while none is asked for.
  .map((typed) =>
    typed.repeats ? typed : { ...typed, everyWeeks: 4, count: 6, toleranceDays: 2, sameProvider: true },
  );

const asParams = (changes: Readonly<Record<string, string | null>>) =>
  new URLSearchParams(Object.entries(changes).filter((entry): entry is [string, string] => entry[1] !== null));

it('reads every search back from its own address', () => {
  fc.assert(
    fc.property(search, (typed) => {
      expect(searchOf(asParams(addressOf(typed, bounds)), bounds)).toEqual(typed);
    }),
  );
});

it('makes a search that can be asked of any address whatever', () => {
  const names = Object.keys(addressOf(searchOf(new URLSearchParams(), bounds), bounds));
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.constantFrom(...names), fc.string())), (pairs) => {
      const typed = searchOf(new URLSearchParams(pairs), bounds);
      expect(searchOf(asParams(addressOf(typed, bounds)), bounds)).toEqual(typed);
      expect(bounds.visitTypeIds).toContain(typed.members[0].visitTypeId);
    }),
  );
});

it('says only what differs from the usual search, and drops what is not there any more', () => {
  const usual = searchOf(new URLSearchParams('who=new:gone&site=closed,mesa&days=9999&from=soon'), bounds);
  expect(usual).toMatchObject({
    members: [{ kind: 'established', visitTypeId: 'check', patientId: null }],
    siteIds: ['mesa'],
    days: 14,
    from: '2026-12-01',
  });
  expect(asParams(addressOf(usual, bounds)).toString()).toBe('who=established%3Acheck&site=mesa');
});

it('keeps for whom a time is looked for, with the first visit type where none is said', () => {
  const patientId = '7f0c2f7e-6b1d-4c39-9a64-0d1f5a1b2c3d';
  expect(searchOf(new URLSearchParams(`who=new::${patientId}`), bounds).members).toEqual([
    { kind: 'new', visitTypeId: bounds.visitTypeIds[0], patientId },
  ]);
  expect(searchOf(new URLSearchParams('who=new:check:nobody'), bounds).members).toMatchObject([{ patientId: null }]);
});
