import { prepareDatabase } from '@zaguan/server/prepare';
import { OtherVersion } from '@zaguan/server/platform/db/migrate';
import { isLoaded, loadDemo, loadExcerpt } from './index.ts';

/**
 * Migrates the database and loads the demo into it once: `npm run build --workspace demo; node demo/dist/load.js`.
 * ZAGUAN_CLINIC=excerpt loads a cut of it in two seconds.
 */
/** What the start command answers by loading afresh, in a folder of its own. */
const OTHER_VERSION = 3;

const url = process.env.DATABASE_URL;
if (!url) throw new Error('Set DATABASE_URL.');
const orm = await prepareDatabase(url).catch((error: unknown) => {
  if (!(error instanceof OtherVersion)) throw error;
  console.error(error.message);
  process.exit(OTHER_VERSION);
});
if (await isLoaded(orm)) console.log('The clinic is loaded already.');
else {
  const today = new Date().toISOString().slice(0, 10);
  const made =
    process.env.ZAGUAN_CLINIC === 'excerpt'
      ? await loadExcerpt(orm, today)
      : await loadDemo(orm, today, { tell: (what) => console.log(`  loading ${what}`) });
  console.log(`Loaded ${made.patients} patients and ${made.visits} visits.`);
}
await orm.close(true);
