import { Migration } from '@mikro-orm/migrations';

/** The desk calls a form by its subject; patients read a title that speaks to them. */
export class Migration20261128_06_staff_names_of_forms extends Migration {
  override up(): void {
    for (const table of ['intake_form', 'consent_form']) {
      this.addSql(`alter table ${table} add column staff_name text`);
      this.addSql(`alter table ${table} disable trigger user`);
      this.addSql(`update ${table} set staff_name = title_en`);
      this.addSql(`alter table ${table} enable trigger user`);
      this.addSql(`alter table ${table} alter column staff_name set not null`);
      this.addSql(
        `alter table ${table} add constraint ${table}_staff_name_check check (staff_name = trim(staff_name) and char_length(staff_name) between 1 and 60)`,
      );
    }
  }
}
