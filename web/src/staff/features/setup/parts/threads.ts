import type { NeedDoc, PartDoc } from '@zaguan/contracts/setup';

/**
 * What a visit needs, seen along the visit: one thing (the provider, one of a pool, a device, someone present) and the
 * parts in which it is needed. Over several parts it is the same member throughout: that is how parts are bound.
 */
export interface Thread {
  readonly what: NeedDoc['what'];
  readonly poolKind: string | null;
  readonly resourceId: string | null;
  readonly capability: string | null;
  /** Parts by index, ascending. */
  readonly parts: readonly number[];
  /** The need's key in each of these parts. */
  readonly keys: readonly string[];
  /** Minutes kept after its last part, for cleaning. */
  readonly turnaroundMin: number;
  /** The first key of the thread whose member must be another one. */
  readonly differentFrom: string | null;
}

/** Threads out of the parts' needs, in the order in which they first appear. */
export function toThreads(parts: readonly PartDoc[]): Thread[] {
  const threads: { first: string; thread: Thread }[] = [];
  const rootOf = new Map<string, string>();
  const all = parts.flatMap((part, index) => part.needs.map((need) => ({ need, index })));
  for (const { need, index } of all) {
    const bound = need.sameAs === null ? null : (rootOf.get(need.sameAs) ?? need.sameAs);
    // The provider is one person throughout without being bound; someone present may be another one each time.
    const like = threads.find(
      ({ first, thread }) =>
        first === bound ||
        (bound === null && need.what === thread.what && (need.what === 'provider' || need.what === 'present')
          ? need.capability === thread.capability && !thread.parts.includes(index)
          : bound === null &&
            need.what === 'resource' &&
            need.resourceId === thread.resourceId &&
            !thread.parts.includes(index)),
    );
    rootOf.set(need.key, like?.first ?? need.key);
    if (like) {
      like.thread = {
        ...like.thread,
        parts: [...like.thread.parts, index],
        keys: [...like.thread.keys, need.key],
        turnaroundMin: Math.max(like.thread.turnaroundMin, need.turnaroundMin),
        differentFrom: like.thread.differentFrom ?? need.differentFrom,
      };
    } else
      threads.push({
        first: need.key,
        thread: {
          what: need.what,
          poolKind: need.poolKind,
          resourceId: need.resourceId,
          capability: need.capability,
          parts: [index],
          keys: [need.key],
          turnaroundMin: need.turnaroundMin,
          differentFrom: need.differentFrom,
        },
      });
  }
  return threads.map(({ thread }) => thread);
}

/** A key that no other need has. */
export function freeKey(criteria: string, taken: ReadonlySet<string>): string {
  if (!taken.has(criteria)) return criteria;
  for (let n = 2; ; n++) if (!taken.has(`${criteria}-${n}`)) return `${criteria}-${n}`;
}

/** The parts' needs out of threads; keys stay where a need stays. */
export function toParts(parts: readonly PartDoc[], threads: readonly Thread[]): PartDoc[] {
  const needs: NeedDoc[][] = parts.map(() => []);
  const known = new Set(threads.flatMap(({ keys }) => keys));
  for (const thread of threads)
    thread.parts.forEach((index, i) => {
      if (index >= parts.length) return;
      const last = i === thread.parts.length - 1;
      needs[index].push({
        key: thread.keys[i],
        what: thread.what,
        poolKind: thread.poolKind,
        resourceId: thread.resourceId,
        capability: thread.capability,
        sameAs: thread.what === 'pool' && i > 0 ? thread.keys[0] : null,
        differentFrom: i === 0 && thread.differentFrom && known.has(thread.differentFrom) ? thread.differentFrom : null,
        turnaroundMin: last && thread.what === 'pool' ? thread.turnaroundMin : 0,
      });
    });
  return parts.map((part, i) => ({ ...part, needs: needs[i].sort((a, b) => (a.key < b.key ? -1 : 1)) }));
}

const baseOf = (thread: Pick<Thread, 'what' | 'poolKind' | 'capability'>) =>
  thread.what === 'pool'
    ? (thread.poolKind ?? 'pool')
    : thread.what === 'present'
      ? `present-${thread.capability}`
      : thread.what;

/** A new thread that begins in one part. */
export function newThread(
  thing: Pick<Thread, 'what' | 'poolKind' | 'resourceId' | 'capability'>,
  part: number,
  threads: readonly Thread[],
): Thread {
  const key = freeKey(baseOf(thing).slice(0, 34), new Set(threads.flatMap(({ keys }) => keys)));
  return { ...thing, parts: [part], keys: [key], turnaroundMin: 0, differentFrom: null };
}

/** Needs a thing in a part, or no longer. A thread without parts is gone. */
export function setNeeded(threads: readonly Thread[], at: number, part: number, needed: boolean): Thread[] {
  const thread = threads[at];
  if (thread.parts.includes(part) === needed) return [...threads];
  const rows = thread.parts.map((index, i) => ({ index, key: thread.keys[i] }));
  const taken = new Set(threads.flatMap(({ keys }) => keys));
  const next = needed
    ? [...rows, { index: part, key: freeKey(thread.keys[0], taken) }].sort((a, b) => a.index - b.index)
    : rows.filter(({ index }) => index !== part);
  if (!next.length) return threads.filter((_, i) => i !== at);
  const changed = { ...thread, parts: next.map(({ index }) => index), keys: next.map(({ key }) => key) };
  return threads.map((each, i) => (i === at ? changed : each));
}

/** What becomes of threads when a part is taken away. */
export function withoutPart(threads: readonly Thread[], part: number): Thread[] {
  return threads.flatMap((thread) => {
    const rows = thread.parts
      .map((index, i) => ({ index, key: thread.keys[i] }))
      .filter(({ index }) => index !== part)
      .map(({ index, key }) => ({ index: index > part ? index - 1 : index, key }));
    return rows.length ? [{ ...thread, parts: rows.map(({ index }) => index), keys: rows.map(({ key }) => key) }] : [];
  });
}

/** Minutes from the thread's first part to its last in which it is not needed: the provider is free then. */
export function freeBetween(
  parts: readonly PartDoc[],
  thread: Thread,
): { readonly part: number; readonly minutes: number }[] {
  const [first, last] = [thread.parts[0], thread.parts[thread.parts.length - 1]];
  return parts.flatMap(({ lengthMin }, part) =>
    part > first && part < last && !thread.parts.includes(part) ? [{ part, minutes: lengthMin }] : [],
  );
}
