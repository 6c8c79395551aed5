import { Migration20261123_01_platform } from './Migration20261123_01_platform.ts';
import { Migration20261123_02_clinic } from './Migration20261123_02_clinic.ts';
import { Migration20261123_03_booking } from './Migration20261123_03_booking.ts';
import { Migration20261123_04_messages } from './Migration20261123_04_messages.ts';
import { Migration20261123_05_intake } from './Migration20261123_05_intake.ts';
import { Migration20261123_06_mail } from './Migration20261123_06_mail.ts';
import { Migration20261123_07_changes } from './Migration20261123_07_changes.ts';
import { Migration20261126_08_setup } from './Migration20261126_08_setup.ts';
import { Migration20261127_09_schedule } from './Migration20261127_09_schedule.ts';
import { Migration20261127_10_feeds } from './Migration20261127_10_feeds.ts';
import { Migration20261127_11_drafts } from './Migration20261127_11_drafts.ts';
import { Migration20261128_12_calls } from './Migration20261128_12_calls.ts';
import { Migration20261128_13_cover } from './Migration20261128_13_cover.ts';
import { Migration20261128_14_access } from './Migration20261128_14_access.ts';
import { Migration20261129_15_safety } from './Migration20261129_15_safety.ts';

/** In order. Migrations are the only way the schema changes. */
export const MIGRATIONS = [
  Migration20261123_01_platform,
  Migration20261123_02_clinic,
  Migration20261123_03_booking,
  Migration20261123_04_messages,
  Migration20261123_05_intake,
  Migration20261123_06_mail,
  Migration20261123_07_changes,
  Migration20261126_08_setup,
  Migration20261127_09_schedule,
  Migration20261127_10_feeds,
  Migration20261127_11_drafts,
  Migration20261128_12_calls,
  Migration20261128_13_cover,
  Migration20261128_14_access,
  Migration20261129_15_safety,
].map((migration) => ({
  name: migration.name,
  class: migration,
}));
