import pg from 'pg';

/** Drops Zaguan's tables in the database of DATABASE_URL: its schemas `public` and `simulated`. */
const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
await client.connect();
await client.query('drop schema if exists simulated cascade; drop schema public cascade; create schema public');
await client.end();
