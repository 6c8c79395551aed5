import { Migration } from '@mikro-orm/migrations';

/** When a visit was changed last goes with its version: calendars and FHIR clients ask for it. */
export class Migration20261128_04_visits_say_when_changed extends Migration {
  override up(): void {
    this.addSql('alter table appointment add column changed_at timestamptz');
    this.addSql(
      'update appointment set changed_at = greatest(created_at, confirmed_at, arrived_at, checked_in_at, fulfilled_at, noshow_at, cancelled_at)',
    );
    this.addSql('alter table appointment alter column changed_at set not null');
    this.addSql('create index appointment_changed on appointment (changed_at)');
  }
}
