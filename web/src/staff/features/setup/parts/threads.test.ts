import type { NeedDoc, PartDoc } from '@zaguan/contracts/setup';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { freeBetween, newThread, setNeeded, type Thread, toParts, toThreads, withoutPart } from './threads.ts';

const need = (key: string, more: Partial<NeedDoc>): NeedDoc => ({
  key,
  what: 'pool',
  poolKind: more.what && more.what !== 'pool' ? null : 'room',
  resourceId: null,
  capability: null,
  sameAs: null,
  differentFrom: null,
  turnaroundMin: 0,
  ...more,
});

/** A nurse, a wait, the provider, all in one room. */
const SKIN: PartDoc[] = [
  { name: 'Test', lengthMin: 20, needs: [need('nurse', { poolKind: 'nurse' }), need('room', {})] },
  { name: 'Wait', lengthMin: 20, needs: [need('room-wait', { sameAs: 'room' })] },
  {
    name: 'Reading',
    lengthMin: 15,
    needs: [need('provider', { what: 'provider' }), need('room-end', { sameAs: 'room', turnaroundMin: 5 })],
  },
];
const DOC = { what: 'provider', poolKind: null, resourceId: null, capability: null } as const;

it('sees what is bound as one thread, and gives the same needs back', () => {
  const threads = toThreads(SKIN);
  expect(threads.map(({ parts, turnaroundMin }) => [parts, turnaroundMin])).toEqual([
    [[0], 0],
    [[0, 1, 2], 5],
    [[2], 0],
  ]);
  expect(toParts(SKIN, threads)).toEqual(SKIN);
});

it('binds a part by needing the thing there too, and moves the turnaround to the last part', () => {
  const threads = setNeeded(toThreads(SKIN), 0, 2, true);
  const parts = toParts(SKIN, threads);
  expect(parts[2].needs.find(({ key }) => key === 'nurse-2')).toMatchObject({ sameAs: 'nurse', poolKind: 'nurse' });
  const shorter = toParts(SKIN, setNeeded(toThreads(SKIN), 1, 2, false));
  expect(shorter[1].needs[0]).toMatchObject({ key: 'room-wait', sameAs: 'room', turnaroundMin: 5 });
});

it('makes the second part the first when the first is no longer needed', () => {
  const parts = toParts(SKIN, setNeeded(toThreads(SKIN), 1, 0, false));
  expect(parts[1].needs[0]).toMatchObject({ key: 'room-wait', sameAs: null });
  expect(parts[2].needs.find(({ key }) => key === 'room-end')?.sameAs).toBe('room-wait');
});

it('says when the provider is free in the middle', () => {
  const parts: PartDoc[] = [10, 215, 15].map((lengthMin) => ({ name: '', lengthMin, needs: [] }));
  const both = setNeeded([newThread(DOC, 0, [])], 0, 2, true);
  expect(freeBetween(parts, both[0])).toEqual([{ part: 1, minutes: 215 }]);
  expect(toParts(parts, both).map((part) => part.needs.map(({ key }) => key))).toEqual([
    ['provider'],
    [],
    ['provider-2'],
  ]);
});

it('drops a thread that is needed nowhere, and closes up when a part goes', () => {
  expect(setNeeded(toThreads(SKIN), 2, 2, false)).toHaveLength(2);
  const left = withoutPart(toThreads(SKIN), 0);
  expect(left.map(({ parts }) => parts)).toEqual([[0, 1], [1]]);
});

it('gives every need a key of its own and binds only to what is there, whatever is pressed', () => {
  const press = fc.record({ at: fc.nat(4), part: fc.nat(2), needed: fc.boolean(), add: fc.boolean() });
  fc.assert(
    fc.property(fc.array(press, { maxLength: 25 }), (presses) => {
      let threads: Thread[] = toThreads(SKIN);
      for (const { at, part, needed, add } of presses)
        if (add) threads = [...threads, newThread({ ...DOC, what: 'pool', poolKind: 'room' }, part, threads)];
        else if (threads[at]) threads = setNeeded(threads, at, part, needed);
      const needs = toParts(SKIN, threads).flatMap((part) => part.needs);
      const keys = needs.map(({ key }) => key);
      expect(new Set(keys).size).toBe(keys.length);
      for (const { sameAs } of needs) if (sameAs) expect(keys).toContain(sameAs);
    }),
    { seed: 3 },
  );
});
