import { Migration } from '@mikro-orm/migrations';

/** The date that a message speaks of stays with it when its visit moves. */
export class Migration20261128_03_messages_keep_date extends Migration {
  override up(): void {
    this.addSql('alter table message add column visit_date date');
    this.addSql('update message m set visit_date = a.site_date from appointment a where a.id = m.appointment_id');
    this.addSql(
      'alter table message add constraint message_keeps_its_date check ((appointment_id is null) = (visit_date is null))',
    );
  }
}
