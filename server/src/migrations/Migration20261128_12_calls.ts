import { Migration } from '@mikro-orm/migrations';

/** Calls to the patients of visits that must move and whom no message reaches. */
export class Migration20261128_12_calls extends Migration {
  override up(): void {
    this.addSql(`alter table visit_to_move add column call_outcome text check (call_outcome in ('no-answer','left-message','spoke')),
      add column called_at timestamptz, add column called_by uuid references account,
      add constraint visit_to_move_call_whole check ((call_outcome is null) = (called_at is null) and (called_at is null) = (called_by is null))`);
  }
}
