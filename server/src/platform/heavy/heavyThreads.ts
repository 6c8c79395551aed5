import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import type { Handed, HeavyLimit, HeavyRefusal, HeavyTask, HeavyWork } from './heavyTask.ts';

/** A task that is asked to stop gets so much longer before its thread is ended. */
const GRACE_MS: Record<HeavyTask<never, never>['threads'], number> = { search: 2_000, files: 0 };
/**
 * So long a task waits for a thread where waiting does not count: on a busy machine a thread alone takes longer to start
 * than a file may take. A search's waiting counts: nobody waits twice.
 */
const MAX_WAIT_MS = 10_000;
/** Of one file and what is read out of it. */
const FILES_MEGABYTES = 192;

/**
 * Threads for heavy work: as many for searches as there are processors but one, and two for files. They are started when
 * work comes, which takes a third of a second; those for files are ended soon after.
 */
export class HeavyThreads implements HeavyWork {
  private readonly pools: Record<HeavyTask<never, never>['threads'], Piscina>;

  /**
   * @param filename the threads' own program
   * @param settings what it needs to know, the same for each
   */
  constructor(filename: string, settings: Readonly<Record<string, unknown>>) {
    const common = { filename, workerData: settings, concurrentTasksPerWorker: 1 };
    this.pools = {
      search: new Piscina({
        ...common,
        minThreads: 0,
        maxThreads: Math.max(1, availableParallelism() - 1),
        idleTimeout: 600_000,
      }),
      files: new Piscina({
        ...common,
        minThreads: 0,
        maxThreads: 2,
        idleTimeout: 30_000,
        resourceLimits: { maxOldGenerationSizeMb: FILES_MEGABYTES },
      }),
    };
    // A thread that ends is told to its task; the next one is started by itself.
    for (const pool of Object.values(this.pools)) pool.on('error', () => undefined);
  }

  async run<In, Out>(
    task: HeavyTask<In, Out>,
    input: In,
    signal: AbortSignal,
    { deadlineMs, waitingCounts }: HeavyLimit = {
      deadlineMs: task.deadlineMs,
      waitingCounts: task.threads === 'search',
    },
  ): Promise<Out | HeavyRefusal> {
    const shared = new SharedArrayBuffer(12);
    const flags = new Int32Array(shared);
    const ended = new AbortController();
    const timers: NodeJS.Timeout[] = [];
    const stop = () => {
      if (Atomics.exchange(flags, 0, 1) === 0) timers.push(setTimeout(() => ended.abort(), GRACE_MS[task.threads]));
    };
    let from = performance.now();
    if (waitingCounts) timers.push(setTimeout(stop, deadlineMs));
    else {
      const waiting = setTimeout(stop, MAX_WAIT_MS);
      const begun = whenBegun(flags, () => {
        clearTimeout(waiting);
        from = performance.now();
        timers.push(setTimeout(stop, deadlineMs));
      });
      timers.push(waiting, begun);
    }
    if (task.stalledMs) timers.push(whenStalled(flags, task.stalledMs, () => ended.abort()));
    signal.addEventListener('abort', stop);
    if (signal.aborted) stop();
    try {
      const handed: Handed = { task: task.name, input, shared };
      return (await this.pools[task.threads].run(handed, { signal: ended.signal })) as Out;
    } catch (error) {
      const progress = Atomics.load(flags, 1);
      const tookMs = performance.now() - from;
      if (ended.signal.aborted) return { refused: 'too-long', progress, tookMs };
      if (error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY')
        return { refused: 'too-much-memory', progress, tookMs };
      throw error;
    } finally {
      for (const timer of timers) clearTimeout(timer);
      signal.removeEventListener('abort', stop);
    }
  }

  async stop(): Promise<void> {
    await Promise.all(Object.values(this.pools).map((pool) => pool.destroy()));
  }
}

/** Calls once when the thread has begun. */
function whenBegun(flags: Int32Array, call: () => void): NodeJS.Timeout {
  const timer = setInterval(() => {
    if (Atomics.load(flags, 2) === 0) return;
    clearInterval(timer);
    call();
  }, 20);
  return timer;
}

/** Calls once when there was no sign of life for so long; before the first progress nothing has begun. */
function whenStalled(flags: Int32Array, ms: number, call: () => void): NodeJS.Timeout {
  let last = 0;
  let since = performance.now();
  return setInterval(() => {
    const signs = Atomics.load(flags, 2);
    if (signs !== last) {
      last = signs;
      since = performance.now();
    } else if (Atomics.load(flags, 1) > 0 && performance.now() - since > ms) call();
  }, ms / 4);
}
