import pg from 'pg';

/** Drops Zaguan's tables in the database of DATABASE_URL: its schemas `public` and `stand_in`. */
const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
await client.connect();
await client.query('drop schema if exists stand_in cascade; drop schema public cascade; create schema public');
await client.end();
