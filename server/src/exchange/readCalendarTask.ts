import type { LocalDate } from '@zaguan/core/time';
import { type HeavyTask, type HeavyWork, isRefusal } from '../platform/heavy/heavyTask.ts';
import { type ClosuresRead, closuresFromCalendar } from './closuresFromCalendar.ts';

interface Question {
  readonly text: string;
  /** The clocks on which the closures are wanted. */
  readonly zones: readonly string[];
  readonly today: LocalDate;
  readonly busyOnly: boolean;
}

/** A file is read within two seconds of a thread's work or not at all. */
const DEADLINE_MS = 2_000;
/** No sensible event takes so long (some 20 ms are the most): its rule has no end to its search. */
const STALLED_MS = 400;
/** Each event that holds a thread up costs a new one: a file with more of them is given up. */
const MOST_STALLS = 2;

/**
 * Anybody can write a calendar file whose rule never meets a date (a February 30 every minute), and the library would
 * search for it for ever. So files are read in a thread that can be ended.
 */
export const readCalendarTask: HeavyTask<
  Question & { readonly leaveOut: readonly number[] },
  ClosuresRead[] | 'not-a-calendar'
> = {
  name: 'read-calendar',
  threads: 'files',
  deadlineMs: DEADLINE_MS,
  stalledMs: STALLED_MS,
  run: ({ text, zones, today, busyOnly, leaveOut }, { progress }) => {
    const read = zones.map((zone) =>
      closuresFromCalendar(text, zone, today, { busyOnly, leaveOut, onEvent: progress }),
    );
    return read.some((each) => !each) ? 'not-a-calendar' : read.filter((each) => each !== null);
  },
};

/** What became of a file: read for each clock, no calendar at all, or too heavy, at which of its events (0: before any). */
export type CalendarRead =
  | { readonly zones: readonly ClosuresRead[] }
  | { readonly refused: 'not-a-calendar' }
  | { readonly refused: 'too-heavy'; readonly at: number };

/** Reads a file in a thread. An event that holds everything up is left out and named; the rest is read all the same. */
export async function readCalendar(heavy: HeavyWork, question: Question, signal: AbortSignal): Promise<CalendarRead> {
  const leaveOut: number[] = [];
  let left = DEADLINE_MS;
  for (;;) {
    // How long a busy machine takes to start a thread is not the file's fault.
    const limit = { deadlineMs: left, waitingCounts: false };
    const answer = await heavy.run(readCalendarTask, { ...question, leaveOut }, signal, limit);
    if (answer === 'not-a-calendar') return { refused: answer };
    if (!isRefusal(answer)) return { zones: answer };
    left -= answer.tookMs;
    const over = signal.aborted || left <= 0 || answer.refused === 'too-much-memory';
    if (over || answer.progress === 0) return { refused: 'too-heavy', at: answer.progress || (leaveOut.at(-1) ?? 0) };
    leaveOut.push(answer.progress);
    if (leaveOut.length === MOST_STALLS) return { refused: 'too-heavy', at: answer.progress };
  }
}
