import { Migration20261128_01_baseline } from './Migration20261128_01_baseline.ts';
import { Migration20261128_02_reads_once } from './Migration20261128_02_reads_once.ts';
import { Migration20261128_03_messages_keep_date } from './Migration20261128_03_messages_keep_date.ts';

/** In order. Migrations are the only way the schema changes. */
export const MIGRATIONS = [
  Migration20261128_01_baseline,
  Migration20261128_02_reads_once,
  Migration20261128_03_messages_keep_date,
].map((migration) => ({
  name: migration.name,
  class: migration,
}));
