import { Migration } from '@mikro-orm/migrations';

/** Whose change put a visit on the list: they are the ones who settle it, so their own come first. */
export class Migration20261128_08_visits_to_move_say_by_whom extends Migration {
  override up(): void {
    this.addSql('alter table visit_to_move add column found_by uuid references account');
    // Kept in another shape from now on; what was moved before the update stays moved.
    this.addSql(`delete from undo_entry where command = 'availability.moveBack'`);
  }
}
