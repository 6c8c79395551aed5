import { Migration } from '@mikro-orm/migrations';

/** How work ended, in a word, and who assigned a red flag to the clinician who has it. */
export class Migration20261128_09_work_has_outcomes extends Migration {
  override up(): void {
    for (const table of ['message', 'inbox_message']) {
      this.addSql(
        `alter table ${table} add column handled_as text
           constraint ${table}_handled_as_known check (handled_as in ('spoke','left-message','not-reached','nothing-needed'))`,
      );
      this.addSql(
        `alter table ${table} add constraint ${table}_outcome_of_handled check (handled_as is null or handled_at is not null)`,
      );
    }
    this.addSql('alter table work_item add column assigned_by uuid references account');
    this.addSql(
      `alter table work_item add constraint work_item_assigned_flag check (assigned_by is null or kind = 'red-flag')`,
    );
  }
}
