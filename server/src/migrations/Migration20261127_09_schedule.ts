import { Migration } from '@mikro-orm/migrations';

/** Acts on the schedule: visits that lost their footing wait on a list, with whoever left one where it is. */
export class Migration20261127_09_schedule extends Migration {
  override up(): void {
    this.addSql(`create table visit_to_move (
      appointment_id uuid primary key references appointment on delete cascade,
      since timestamptz not null, kept_at timestamptz, kept_by uuid references account, kept_reason text,
      check ((kept_at is null) = (kept_reason is null))
    )`);
    this.addSql('create index visit_to_move_open on visit_to_move (since) where kept_at is null');
    // One change of one set of hours and date at a time; a date's change may follow hours that are split.
    this.addSql(`alter table working_hours_change drop constraint working_hours_change_working_hours_id_fkey,
      add constraint working_hours_change_working_hours_id_fkey foreign key (working_hours_id) references working_hours deferrable initially deferred`);
  }
}
