import { Migration } from '@mikro-orm/migrations';

/** Schedules thought of but not in force, and who asked for time off and what became of it. */
export class Migration20261127_11_drafts extends Migration {
  override up(): void {
    this.addSql(`create table schedule_draft (
      id uuid primary key, name text not null check (length(trim(name)) between 1 and 80), edits jsonb not null default '[]', version integer not null default 1,
      created_at timestamptz not null, created_by uuid not null references account, published_at timestamptz, published_by uuid references account
    )`);
    this.addSql(`alter table time_off add column asked_at timestamptz, add column asked_by uuid references account,
      add column decided_at timestamptz, add column decided_by uuid references account, add column answer text not null default '' check (length(answer) <= 200)`);
    this.addSql(`alter table message drop constraint message_kind_check,
      add constraint message_kind_check check (kind in ('confirmation','reminder','moved','displaced','cancellation','restored','reply','code'))`);
    this.addSql("create index time_off_asked on time_off (start_date) where status = 'asked'");
  }
}
