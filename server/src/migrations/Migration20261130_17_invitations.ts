import { Migration } from '@mikro-orm/migrations';

/** Invitations: what one may book, who holds one, and what happened to it. */
export class Migration20261130_17_invitations extends Migration {
  override up(): void {
    this.addSql(`create table invitation_template (
      id uuid primary key,
      name text not null constraint invitation_template_name_check check (char_length(name) between 1 and 80),
      rules jsonb not null,
      reason text not null default '' constraint invitation_template_reason_check check (char_length(reason) <= 120),
      words jsonb not null,
      sort_order smallint not null default 0,
      active boolean not null default true
    )`);
    this.addSql(`create table invitation (
      id uuid primary key,
      template_id uuid not null references invitation_template,
      patient_id uuid not null references patient on delete cascade,
      plan_id uuid references recall_plan,
      request_id uuid references booking_request,
      move_id uuid references appointment,
      subject_id uuid not null generated always as (coalesce(plan_id, request_id, move_id, template_id)) stored,
      uses_left smallint not null constraint invitation_uses_left_check check (uses_left >= 0),
      invited_on date not null,
      until_date date not null,
      expires_at timestamptz not null,
      ended_as text constraint invitation_ended_as_check check (ended_as in ('used','withdrawn','declined','later','done-elsewhere','expired')),
      ended_at timestamptz,
      created_by uuid references account,
      created_at timestamptz not null,
      version integer not null default 1,
      constraint invitation_ended_whole check ((ended_as is null) = (ended_at is null)),
      constraint invitation_one_subject check (num_nonnulls(plan_id, request_id, move_id) <= 1),
      constraint invitation_dates_in_order check (until_date >= invited_on)
    )`);
    // Never two that can be used for one thing, whoever sends them at the same moment.
    this.addSql(
      'create unique index invitation_live_once on invitation (patient_id, subject_id) where ended_at is null',
    );
    this.addSql('create index invitation_patient on invitation (patient_id)');
    this.addSql('create index invitation_plan on invitation (plan_id, invited_on)');
    this.addSql(`create table invitation_event (
      seq bigint generated always as identity primary key,
      invitation_id uuid not null references invitation on delete cascade,
      kind text not null constraint invitation_event_kind_check check (kind in ('planned','opened','looked','booked','locked','later','declined','done-elsewhere','withdrawn','restored')),
      at timestamptz not null,
      account_id uuid references account,
      appointment_id uuid references appointment,
      constraint invitation_event_booked_visit check ((kind = 'booked') = (appointment_id is not null))
    )`);
    this.addSql('create index invitation_event_invitation on invitation_event (invitation_id, seq)');
    this.addSql(
      'create index invitation_event_appointment on invitation_event (appointment_id) where appointment_id is not null',
    );
    this.addSql(
      'create trigger invitation_event_append_only before update on invitation_event for each row execute function refuse_change()',
    );

    this.addSql('alter table message add column invitation_id uuid references invitation on delete cascade');
    this.addSql('alter table message add column subject text');
    this.addSql('alter table message drop constraint message_kind_check');
    this.addSql(
      `alter table message add constraint message_kind_check check (kind in ('confirmation','reminder','moved','must-move','cancellation','restored','requested','declined','reply','code','delay','on-time','invitation'))`,
    );
    this.addSql(
      "alter table message add constraint message_of_invitation check ((kind = 'invitation') = (invitation_id is not null))",
    );
    this.addSql('create index message_invitation on message (invitation_id) where invitation_id is not null');
    this.addSql('alter table link_token drop constraint link_token_kind_check');
    this.addSql("alter table link_token add constraint link_token_kind_check check (kind in ('visit','invitation'))");

    this.addSql(
      "create index link_token_locked on link_token (locked_until) where kind = 'invitation' and locked_until is not null",
    );

    // Whom a message will not reach because a rule held it back for good holds no invitation.
    this.addSql(`create function end_unsent_invitation() returns trigger language plpgsql as $$
      begin
        with ended as (update invitation set ended_as = 'withdrawn', ended_at = new.settled_at, version = version + 1
          where id = new.invitation_id and ended_at is null returning id)
        insert into invitation_event (invitation_id, kind, at) select id, 'withdrawn', new.settled_at from ended;
        return null;
      end $$`);
    this.addSql(
      "create trigger message_ends_invitation after update of status on message for each row when (new.invitation_id is not null and new.status = 'dropped') execute function end_unsent_invitation()",
    );

    // Whoever was invited is left alone by the plans for a while.
    this.addSql(`create function note_recalls_of_invitation() returns trigger language plpgsql as $$
      begin insert into recall_stale (patient_id) select distinct patient_id from changed; return null; end $$`);
    for (const event of ['insert', 'update'] as const)
      this.addSql(
        `create trigger invitation_recalls_${event} after ${event} on invitation referencing new table as changed for each statement execute function note_recalls_of_invitation()`,
      );
  }
}
