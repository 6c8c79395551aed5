import { createHash } from 'node:crypto';
import { ClinicIndex, ClinicStore, type OpenDay, openDays, searchOpenings } from '@zaguan/core/openings';
import { inTurn, median, type Result, rounded } from '../measure.ts';
import { buildBare, columnsOf, sweepBare } from './bareSweep.ts';
import { byCandidate } from './loop.ts';
import { answerOf, loadTables, QUERIES, serverMs } from './postgres.ts';
import { type Workload, workload } from './workload.ts';

const SITES = ['site-0', 'site-1'];
const FIRST = 50;

type Start = { readonly provider: number; readonly start: number };

/** A hash of all starts, whatever their order. */
function hashOf(starts: readonly Start[]): string {
  const lines = starts.map(({ provider, start }) => `${provider} ${start}`).sort();
  return createHash('sha256').update(lines.join('\n')).digest('hex').slice(0, 16);
}

function rangeOf(w: Workload) {
  return { siteIds: SITES, providerIds: null, from: w.from, until: w.until };
}

/** The product's own search, every rule in place, down to the single start. */
function product(store: ClinicStore, w: Workload, found: (provider: string, start: number) => void): void {
  const report = (start: number, { providerId }: OpenDay) => found(providerId ?? '', start);
  for (const open of openDays(new ClinicIndex(store, w.now), w.criteria, rangeOf(w))) open.forEachStart(report);
}

function firstOf(store: ClinicStore, w: Workload): number {
  let count = 0;
  for (const _ of searchOpenings(new ClinicIndex(store, w.now), w.criteria, rangeOf(w))) if (++count === FIRST) break;
  return count;
}

interface Size {
  readonly providers: number;
  readonly days: number;
  readonly rounds: number;
  /** Rounds before, so that the compiler settles. */
  readonly warm: number;
  readonly builds: number;
  readonly queries: number;
  readonly loop?: boolean;
}

export const SIZES: Record<string, Size> = {
  'openings-20x14': { providers: 20, days: 14, rounds: 400, warm: 1600, builds: 900, queries: 7, loop: true },
  'openings-200x90': { providers: 200, days: 90, rounds: 41, warm: 25, builds: 31, queries: 3 },
  'openings-1000x90': { providers: 1000, days: 90, rounds: 15, warm: 6, builds: 9, queries: 3 },
};

const sweepMs = new Map<string, { ms: number; n: number }>();

/** One size of the openings workload: answers compared with PostgreSQL's by hash, then times as ratios. */
export async function openings(name: string, url: string): Promise<Result> {
  const size = SIZES[name];
  const w = workload(size.providers, size.days);
  const columns = columnsOf(w);
  const bare = buildBare(columns);
  const store = new ClinicStore(w.snapshot);
  const mine: Start[] = [];
  product(store, w, (provider, start) => mine.push({ provider: Number(provider.slice(9)), start }));
  const bareStarts: Start[] = [];
  sweepBare(bare, (provider, start) => bareStarts.push({ provider, start }));
  const client = await loadTables(url, w);
  const best = await bestQuery(client, w, size.queries, hashOf(mine));
  await client.end();
  if (hashOf(bareStarts) !== hashOf(mine)) throw new Error(`${name}: the bare sweep gives other starts.`);

  let sum = 0;
  const count = (_: unknown, start: number) => {
    sum += start;
  };
  const ms = inTurn(
    {
      full: () => product(store, w, count),
      bare: () => sweepBare(bare, count),
      first: () => firstOf(store, w),
    },
    { rounds: size.rounds, warm: size.warm },
  );
  const built = inTurn(
    { bare: () => sweepBare(buildBare(columns), count) },
    { rounds: size.builds, warm: Math.ceil(size.builds / 3) },
  );
  if (!Number.isFinite(sum)) throw new Error('Nothing was swept.');
  sweepMs.set(name, { ms: ms.full, n: w.snapshot.occupied.length });
  return {
    ratio: rounded(best.ms / ms.bare),
    productRatio: rounded(best.ms / ms.full),
    builtRatio: rounded(best.ms / built.bare),
    fullRulesRatio: rounded(ms.full / ms.bare),
    ...(size.loop && { loopRatio: rounded(loopMs(w, mine) / ms.bare) }),
    ...slope(),
    peerMs: rounded(best.ms),
    bareMs: rounded(ms.bare),
    builtMs: rounded(built.bare),
    productMs: rounded(ms.full),
    firstFiftyMs: rounded(ms.first),
    unit: 'times as fast; fullRulesRatio: times as long',
    peer: `PostgreSQL, best of ${Object.keys(QUERIES).length} queries (${best.name}), same answer ${hashOf(mine)}`,
    n: mine.length,
  };
}

async function bestQuery(client: Awaited<ReturnType<typeof loadTables>>, w: Workload, rounds: number, hash: string) {
  const all = [];
  for (const [name, query] of Object.entries(QUERIES)) {
    const answer = hashOf(await answerOf(client, query, w));
    if (answer !== hash) throw new Error(`The query by ${name} gives other starts: ${answer} against ${hash}.`);
    const times = [];
    for (let i = 0; i < rounds; i++) times.push(await serverMs(client, query, w));
    all.push({ name, ms: median(times) });
  }
  return all.reduce((a, b) => (a.ms <= b.ms ? a : b));
}

function loopMs(w: Workload, expected: readonly Start[]): number {
  const start = performance.now();
  const found = byCandidate(w);
  const took = performance.now() - start;
  if (hashOf(found) !== hashOf(expected)) throw new Error('The loop over candidates gives other starts.');
  return took;
}

/** Growth of the full search from the smallest size to the largest, log over log, once three sizes were run. */
function slope(): { slope?: number } {
  if (sweepMs.size < 3) return {};
  const points = [...sweepMs.values()].map(({ ms, n }) => [Math.log(n), Math.log(ms)]);
  const mean = (at: number) => points.reduce((sum, point) => sum + point[at], 0) / points.length;
  const [mx, my] = [mean(0), mean(1)];
  const top = points.reduce((sum, [x, y]) => sum + (x - mx) * (y - my), 0);
  return { slope: rounded(top / points.reduce((sum, [x]) => sum + (x - mx) ** 2, 0)) };
}
