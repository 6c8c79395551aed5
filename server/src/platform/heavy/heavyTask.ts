import type { ClinicReader } from '../endpoint/context.ts';

/** What a task finds in the thread it runs in. */
export interface ThreadScope {
  /** The clinic as this thread keeps it: its own connection, the same notes of what changed. */
  readonly clinic: Pick<ClinicReader, 'keptStore'>;
  /** Whether nobody waits any more, or the time is up: asked now and then, the task ends with what it has. */
  stop(): boolean;
  /** Says how far the task is; whoever started it reads it if the thread has to be ended. */
  progress(n: number): void;
}

/**
 * Work that may take long, done in a thread of its own so that everyone else is answered meanwhile. Question and answer
 * are copied between threads: plain values, and small.
 */
export interface HeavyTask<In, Out> {
  readonly name: string;
  /** Searches share threads that keep the clinic; files are read in threads with little memory. */
  readonly threads: 'search' | 'files';
  /** After so long the task is asked to stop; one that does not is ended with its thread. */
  readonly deadlineMs: number;
  /** The thread is ended when so long no progress is told, the same or another, counted from the first one. */
  readonly stalledMs?: number;
  readonly run: (input: In, scope: ThreadScope) => Out | Promise<Out>;
}

/** Why there is no answer; `tookMs` is the time that counted. */
export type HeavyRefusal = {
  readonly refused: 'too-long' | 'too-much-memory';
  readonly progress: number;
  readonly tookMs: number;
};

/** How long a task may take, and from when. */
export interface HeavyLimit {
  readonly deadlineMs: number;
  /** Whether waiting for a thread, and for its start, counts; else the time begins with the thread. */
  readonly waitingCounts: boolean;
}

/** What a use case needs of the threads. */
export interface HeavyWork {
  /**
   * @param signal ends the work when the caller has left
   * @param limit another one than the task's own, where several runs share one
   * @returns the task's answer, or why there is none; throws what the task throws
   */
  run<In, Out>(
    task: HeavyTask<In, Out>,
    input: In,
    signal: AbortSignal,
    limit?: HeavyLimit,
  ): Promise<Out | HeavyRefusal>;
}

/** What crosses into the thread: the question, and three numbers that both sides see. */
export interface Handed {
  readonly task: string;
  readonly input: unknown;
  /** `[0]`: 1 as soon as the task should stop. `[1]`: how far it is. `[2]`: 1 as soon as the thread has begun with it. */
  readonly shared: SharedArrayBuffer;
}

export function isRefusal(answer: unknown): answer is HeavyRefusal {
  return typeof answer === 'object' && answer !== null && 'refused' in answer && 'progress' in answer;
}
