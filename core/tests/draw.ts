import fc from 'fast-check';
import type { Draw } from './randomClinic.ts';

type Gen = Parameters<Parameters<typeof fc.property<[fc.GeneratorValue]>>[1]>[0];

/** Draws from a property's generator. */
export const drawFrom = (gen: Gen): Draw => ({
  int: (min, max) => gen(fc.integer, { min, max }),
  pick: (from) => from[gen(fc.integer, { min: 0, max: from.length - 1 })],
  chance: (percent) => gen(fc.integer, { min: 1, max: 100 }) <= percent,
});
