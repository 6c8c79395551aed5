import { Migration } from '@mikro-orm/migrations';

/** What sites and rooms have for people who could not come otherwise. */
export class Migration20261128_14_access extends Migration {
  override up(): void {
    for (const table of ['site', 'resource'])
      this.addSql(`alter table ${table} add column access text[] not null default '{}',
        add constraint ${table}_access_known check (access <@ array['step-free','wide-door','adjustable-table','patient-lift','hearing-loop','quiet-room'])`);
  }
}
