import { prepareDatabase } from '@zaguan/server/prepare';
import { isLoaded } from './index.ts';
import { loadScale } from './scale.ts';

/** Migrates the empty database of DATABASE_URL and fills it for measuring: `node demo/dist/loadScale.js PATIENTS VISITS_EACH`. */
const url = process.env.DATABASE_URL;
if (!url) throw new Error('Set DATABASE_URL.');
const [patients, visitsEach] = process.argv.slice(2).map(Number);
const orm = await prepareDatabase(url);
try {
  if (await isLoaded(orm)) {
    console.error('That database holds a clinic already. Nothing was changed.');
    process.exitCode = 1;
  } else {
    const began = performance.now();
    const done = await loadScale(orm, new Date().toISOString().slice(0, 10), { patients, visitsEach }, (what) =>
      console.log(`  ${what} (${Math.round((performance.now() - began) / 1000)} s)`),
    );
    console.log(
      `Made ${done.patients} patients and ${done.visits} visits with ${done.providers} providers at ${done.sites} sites.`,
    );
  }
} finally {
  await orm.close(true);
}
