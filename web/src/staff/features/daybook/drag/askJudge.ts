import type { FitsByPlace, MoveBasis, Place, PlaceJudgment } from './moveJudge.ts';
import type { Question, Reply } from './moveJudge.worker.ts';

/** Without the number under which it is answered. */
type Asked = Question extends infer Q ? (Q extends Question ? Omit<Q, 'n'> : never) : never;

const waiting = new Map<number, (reply: Reply) => void>();
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
    waiting.get(data.n)?.(data);
    waiting.delete(data.n);
  };
  return made;
}

function ask(question: Asked): Promise<Reply> {
  const n = ++asked;
  return new Promise((resolve) => {
    waiting.set(n, resolve);
    startJudge().postMessage({ ...question, n });
  });
}

/** Where a visit fits on the date of a basis; kept under `key` for `judgePlace`. */
export async function fitsOf(key: string, visitId: string, basis: MoveBasis): Promise<FitsByPlace> {
  return (await ask({ ask: 'fits', key, visitId, basis })).fits ?? {};
}

/** What stands against one place of a date that `fitsOf` was asked about; `null` where it can't be said. */
export async function judgePlace(key: string, place: Place, lengthMin: number | null): Promise<PlaceJudgment | null> {
  return (await ask({ ask: 'judge', key, place, lengthMin })).judgment ?? null;
}
