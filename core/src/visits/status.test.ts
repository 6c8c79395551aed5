import { expect, it } from 'vitest';
import { APPOINTMENT_STATUSES, lengthOf, mayCancel, mayFollow, nextStatuses, providerSpan } from './index.ts';

/** FHIR R4 value set appointmentstatus 4.0.1, in its order. */
const FHIR_R4 = [
  'proposed',
  'pending',
  'booked',
  'arrived',
  'fulfilled',
  'cancelled',
  'noshow',
  'entered-in-error',
  'checked-in',
  'waitlist',
];

it('uses exactly the statuses of FHIR R4', () => {
  expect([...APPOINTMENT_STATUSES].sort()).toEqual([...FHIR_R4].sort());
});

it('leads a visit through its day and back, and never out of cancelled', () => {
  expect([
    mayFollow('booked', 'arrived'),
    mayFollow('arrived', 'checked-in'),
    mayFollow('checked-in', 'fulfilled'),
    mayFollow('booked', 'fulfilled'),
  ]).toEqual([true, true, true, false]);
  expect(nextStatuses('cancelled')).toEqual([]);
  // Approving tells the patient, and is not every desk's: no status button does it.
  expect(nextStatuses('pending')).toEqual([]);
  // Whatever the desk does can be taken back by the same table, so that undo needs no rule of its own.
  const done = [
    ['booked', 'arrived'],
    ['arrived', 'checked-in'],
    ['checked-in', 'fulfilled'],
    ['booked', 'noshow'],
    ['arrived', 'noshow'],
  ] as const;
  for (const [from, to] of done) expect([mayFollow(from, to), mayFollow(to, from)]).toEqual([true, true]);
});

it('cancels what has not begun to be served', () => {
  expect(APPOINTMENT_STATUSES.filter(mayCancel)).toEqual(['proposed', 'pending', 'booked', 'arrived', 'waitlist']);
});

it('knows the length of a visit and the provider’s span in it', () => {
  const provider = { key: 'p', what: 'provider' as const };
  const parts = [
    { lengthMin: 20, needs: [] },
    { lengthMin: 10, needs: [provider] },
    { lengthMin: 200, needs: [] },
    { lengthMin: 15, needs: [provider] },
  ];
  expect([lengthOf({ parts }), providerSpan({ parts }), providerSpan({ parts: [parts[0]] })]).toEqual([
    245,
    { fromMin: 20, toMin: 245 },
    null,
  ]);
});
