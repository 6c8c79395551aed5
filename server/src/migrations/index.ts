import { Migration20261128_01_baseline } from './Migration20261128_01_baseline.ts';
import { Migration20261128_02_reads_once } from './Migration20261128_02_reads_once.ts';
import { Migration20261128_03_messages_keep_date } from './Migration20261128_03_messages_keep_date.ts';
import { Migration20261128_04_visits_say_when_changed } from './Migration20261128_04_visits_say_when_changed.ts';
import { Migration20261128_05_short_links } from './Migration20261128_05_short_links.ts';
import { Migration20261128_06_staff_names_of_forms } from './Migration20261128_06_staff_names_of_forms.ts';
import { Migration20261128_07_reach_names_several_days } from './Migration20261128_07_reach_names_several_days.ts';
import { Migration20261128_08_visits_to_move_say_by_whom } from './Migration20261128_08_visits_to_move_say_by_whom.ts';
import { Migration20261128_09_work_has_outcomes } from './Migration20261128_09_work_has_outcomes.ts';
import { Migration20261128_10_providers_named_in_spanish } from './Migration20261128_10_providers_named_in_spanish.ts';
import { Migration20261128_11_patients_are_found } from './Migration20261128_11_patients_are_found.ts';
import { Migration20261129_12_patients_in_full } from './Migration20261129_12_patients_in_full.ts';
import { Migration20261129_13_desk_booking } from './Migration20261129_13_desk_booking.ts';
import { Migration20261129_14_notes_and_delays } from './Migration20261129_14_notes_and_delays.ts';
import { Migration20261129_15_daybook_views } from './Migration20261129_15_daybook_views.ts';
import { Migration20261130_16_recalls } from './Migration20261130_16_recalls.ts';
import { Migration20261130_17_invitations } from './Migration20261130_17_invitations.ts';

/** In order. Migrations are the only way the schema changes. */
export const MIGRATIONS = [
  Migration20261128_01_baseline,
  Migration20261128_02_reads_once,
  Migration20261128_03_messages_keep_date,
  Migration20261128_04_visits_say_when_changed,
  Migration20261128_05_short_links,
  Migration20261128_06_staff_names_of_forms,
  Migration20261128_07_reach_names_several_days,
  Migration20261128_08_visits_to_move_say_by_whom,
  Migration20261128_09_work_has_outcomes,
  Migration20261128_10_providers_named_in_spanish,
  Migration20261128_11_patients_are_found,
  Migration20261129_12_patients_in_full,
  Migration20261129_13_desk_booking,
  Migration20261129_14_notes_and_delays,
  Migration20261129_15_daybook_views,
  Migration20261130_16_recalls,
  Migration20261130_17_invitations,
].map((migration) => ({
  name: migration.name,
  class: migration,
}));
