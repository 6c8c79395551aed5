import { createHash } from 'node:crypto';

/** A small deterministic generator (mulberry32), so that the demo is the same every time it is loaded. */
export function makeRandom(seed: number) {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  return {
    chance: (share: number) => next() < share,
    int: (min: number, max: number) => min + Math.floor(next() * (max - min + 1)),
    pick: <T>(from: readonly T[]): T => from[Math.floor(next() * from.length)],
  };
}
export type Random = ReturnType<typeof makeRandom>;

/** A stable id for a name of the scenario, in the form of a version 8 UUID (RFC 9562: custom). */
export function idOf(name: string): string {
  const hex = createHash('sha256').update(`brindlewood:${name}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
