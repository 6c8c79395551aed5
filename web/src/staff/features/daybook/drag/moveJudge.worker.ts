import { type FitsByPlace, type MoveBasis, MoveJudge, type Place, type PlaceJudgment } from './moveJudge.ts';

/** What the page asks; each question is answered under its number. */
export type Question = { readonly n: number; readonly key: string } & (
  | { readonly ask: 'fits'; readonly visitId: string; readonly basis: MoveBasis }
  | { readonly ask: 'judge'; readonly place: Place }
);
export interface Reply {
  readonly n: number;
  readonly fits?: FitsByPlace;
  readonly judgment?: PlaceJudgment | null;
}

/** The dates that one drag has come over. */
const MOST_KEPT = 8;
const judges = new Map<string, MoveJudge>();

self.onmessage = ({ data }: MessageEvent<Question>) => {
  const reply = (answer: Omit<Reply, 'n'>) => self.postMessage({ n: data.n, ...answer });
  if (data.ask === 'judge') return reply({ judgment: judges.get(data.key)?.judge(data.place) ?? null });
  const judge = new MoveJudge(data.visitId, data.basis);
  judges.set(data.key, judge);
  for (const key of judges.keys()) if (judges.size > MOST_KEPT) judges.delete(key);
  reply({ fits: judge.fits() });
};
