import { expect, it } from 'vitest';
import { humanName } from './humanName.ts';

// Common practice: there is no standard for how a written name comes apart.
it.each([
  ['Dr. Inés Amaya', ['Dr.'], ['Inés'], 'Amaya'],
  ['Teo Lund', undefined, ['Teo'], 'Lund'],
  ['Dra. María José de la Cruz', ['Dra.'], ['María', 'José'], 'de la Cruz'],
  ['Prof. Dr. Ludwig van den Berg', ['Prof.', 'Dr.'], ['Ludwig'], 'van den Berg'],
  ['Anne-Marie Smith-Jones', undefined, ['Anne-Marie'], 'Smith-Jones'],
  ['Cher', undefined, undefined, 'Cher'],
  ['Dr. Lee', ['Dr.'], undefined, 'Lee'],
  ['  Van   Morris ', undefined, ['Van'], 'Morris'],
])('%j comes apart, and stays whole as text', (text, prefix, given, family) => {
  const name = humanName(text, 'MD');
  expect([name.prefix, name.given, name.family, name.suffix]).toEqual([prefix, given, family, ['MD']]);
  expect(name.text).toBe(text);
});
