import { prepareDatabase } from './prepare.ts';

/** Brings the database of DATABASE_URL up to date, and ends: `npm run migrate`. */
const url = process.env.DATABASE_URL;
if (!url) throw new Error('Set DATABASE_URL.');
const orm = await prepareDatabase(url);
await orm.close(true);
