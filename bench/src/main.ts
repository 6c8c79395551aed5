import { join } from 'node:path';
import { startPostgres } from '../../scripts/setup/postgres.mjs';
import { booking } from './booking/index.ts';
import { browser } from './browser.ts';
import { daybookHttp } from './daybookHttp.ts';
import { deskBooking } from './deskBooking.ts';
import { findTime } from './findTime.ts';
import { http } from './http.ts';
import { load } from './load.ts';
import { match } from './matching.ts';
import type { Result } from './measure.ts';
import { patientSearch } from './patientSearch.ts';
import { recallDue } from './recallDue.ts';
import { openings, SIZES } from './openings/index.ts';
import { memory } from './openings/memory.ts';
import { explained } from './openings/whyNot.ts';
import { recurrence } from './recurrence.ts';

const ROOT = join(import.meta.dirname, '../..');
const args = process.argv.slice(2);
const json = args.includes('--json');
const only = args.filter((arg) => !arg.startsWith('--'));

const BENCHES: Record<string, (url: string) => Promise<Result>> = {
  match,
  recurrence,
  'why-not': explained,
  memory,
  'openings-http': http,
  'booking-http': booking,
  'daybook-http': daybookHttp,
  'find-time': findTime,
  'desk-booking': deskBooking,
  'patient-search': patientSearch,
  'recall-due': recallDue,
  browser,
  load,
  ...Object.fromEntries(Object.keys(SIZES).map((name) => [name, (url: string) => openings(name, url)])),
};

const unknown = only.filter((name) => !(name in BENCHES));
if (unknown.length) {
  console.error(`There is no benchmark ${unknown.join(', ')}. There are:\n  ${Object.keys(BENCHES).join('\n  ')}`);
  process.exit(2);
}
// Ended from outside, it ends what it started.
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(130));
/** Each result as it comes; with --json beside the object that is printed at the end. */
const say = (line: string) => (json ? console.error(line) : console.log(line));
const server = (await startPostgres(join(ROOT, '.zaguan/bench'), { durable: true, connections: 120 })) as {
  url: string;
  stop(): void;
};
const results: Record<string, Result> = {};
try {
  for (const name of only.length ? only : Object.keys(BENCHES)) {
    say(`· ${name}`);
    results[name] = await BENCHES[name](server.url);
    for (const [figure, value] of Object.entries(results[name])) say(`    ${figure}: ${value}`);
  }
} finally {
  server.stop();
}
if (json) console.log(JSON.stringify(results, null, 2));
