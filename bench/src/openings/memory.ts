import { ClinicIndex, ClinicStore, openDays } from '@zaguan/core/openings';
import { type Result, rounded } from '../measure.ts';
import { workload } from './workload.ts';

function used(): number {
  if (!globalThis.gc) throw new Error('Run with --expose-gc.');
  for (let i = 0; i < 4; i++) globalThis.gc();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return heapUsed + arrayBuffers;
}

/** What a store of 1,000 providers over 90 days holds after a search of all of it: heap and array buffers. */
export async function memory(): Promise<Result> {
  const before = used();
  const { store, range } = searched();
  const held = used() - before;
  if (!store.plan.resources.length || !range) throw new Error('The store was dropped.');
  return {
    megabytes: rounded(held / 1024 / 1024),
    unit: 'MB of heap and array buffers, with the booked rows themselves',
    peer: 'a bound of 300 MB',
    n: 1000 * 90,
  };
}

function searched() {
  const w = workload(1000, 90);
  const store = new ClinicStore(w.snapshot);
  const range = { siteIds: w.snapshot.sites.map(({ id }) => id), providerIds: null, from: w.from, until: w.until };
  let found = 0;
  for (const _ of openDays(new ClinicIndex(store, w.now), w.criteria, range)) found++;
  return { store, range: found > 0 };
}
