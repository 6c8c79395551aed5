import { prepareDatabase } from '@zaguan/server/prepare';
import { isLoaded, loadDemo } from './index.ts';

/** Migrates the database and loads the demo into it once: `node --import tsx demo/src/load.ts`. */
const url = process.env.DATABASE_URL;
if (!url) throw new Error('Set DATABASE_URL.');
const orm = await prepareDatabase(url);
if (await isLoaded(orm)) console.log('The clinic is loaded already.');
else {
  const made = await loadDemo(orm, new Date().toISOString().slice(0, 10));
  console.log(`Loaded ${made.patients} patients and ${made.visits} visits.`);
}
await orm.close(true);
