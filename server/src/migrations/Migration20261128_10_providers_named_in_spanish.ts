import { Migration } from '@mikro-orm/migrations';

/** How a provider is called to patients who read Spanish ("Dra."); empty where it is the same. */
export class Migration20261128_10_providers_named_in_spanish extends Migration {
  override up(): void {
    this.addSql(`alter table provider add column public_name_es text not null default ''`);
  }
}
