import { Migration } from '@mikro-orm/migrations';

/** Who covers for someone who is away. */
export class Migration20261128_13_cover extends Migration {
  override up(): void {
    this.addSql(`alter table time_off add column cover_id uuid references resource,
      add constraint time_off_cover_other check (cover_id is null or cover_id <> resource_id)`);
  }
}
