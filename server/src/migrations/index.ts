import { Migration20261128_01_baseline } from './Migration20261128_01_baseline.ts';

/** In order. Migrations are the only way the schema changes. */
export const MIGRATIONS = [Migration20261128_01_baseline].map((migration) => ({
  name: migration.name,
  class: migration,
}));
