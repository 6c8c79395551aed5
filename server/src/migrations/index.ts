import { Migration20261128_01_baseline } from './Migration20261128_01_baseline.ts';
import { Migration20261128_02_reads_once } from './Migration20261128_02_reads_once.ts';

/** In order. Migrations are the only way the schema changes. */
export const MIGRATIONS = [Migration20261128_01_baseline, Migration20261128_02_reads_once].map((migration) => ({
  name: migration.name,
  class: migration,
}));
