import type { FitsByPlace, MoveBasis, Place, PlaceJudgment } from './moveJudge.ts';
import type { Question, Reply } from './moveJudge.worker.ts';

/** Without the number under which it is answered. */
type Asked = Question extends infer Q ? (Q extends Question ? Omit<Q, 'n'> : never) : never;

interface Waiting {
  resolve(reply: Reply): void;
  reject(error: Error): void;
}
const waiting = new Map<number, Waiting>();
let asked = 0;
let worker: Worker | null = null;

/** One for the page's life, begun before the first drag needs it. */
export function startJudge(): Worker {
  worker ??= newWorker();
  return worker;
}

function newWorker(): Worker {
  const made = new Worker(new URL('./moveJudge.worker.ts', import.meta.url), { type: 'module' });
  made.onmessage = ({ data }: MessageEvent<Reply>) => {
    waiting.get(data.n)?.resolve(data);
    waiting.delete(data.n);
  };
  // It can't go on: who waits is told, and the next question gets a new one.
  made.onerror = (event) => {
    for (const { reject } of waiting.values()) reject(new Error(event.message));
    waiting.clear();
    if (worker === made) worker = null;
    made.terminate();
  };
  return made;
}

function ask(question: Asked): Promise<Reply> {
  const n = ++asked;
  return new Promise((resolve, reject) => {
    waiting.set(n, { resolve, reject });
    startJudge().postMessage({ ...question, n });
  });
}

/** Where a visit fits on the date of a basis; kept under `key` for `judgePlace`. */
export async function fitsOf(key: string, visitId: string, basis: MoveBasis): Promise<FitsByPlace> {
  return (await ask({ ask: 'fits', key, visitId, basis })).fits ?? {};
}

/** What stands against one place of a date that `fitsOf` was asked about; `null` where it can't be said. */
export async function judgePlace(key: string, place: Place): Promise<PlaceJudgment | null> {
  return (await ask({ ask: 'judge', key, place })).judgment ?? null;
}
