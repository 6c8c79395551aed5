import { Migration } from '@mikro-orm/migrations';

/** Ways of drawing the Daybook, and with which one a role begins; what a visit type is expected to bring in. */
export class Migration20261129_15_daybook_views extends Migration {
  override up(): void {
    this.addSql(`create table daybook_view (
      id uuid primary key,
      name text not null constraint daybook_view_name_check check (char_length(name) between 1 and 40),
      scope text not null,
      account_id uuid references account,
      site_id uuid references site,
      hotkey smallint constraint daybook_view_hotkey_check check (hotkey between 1 and 9),
      settings jsonb not null,
      position integer not null,
      removed_at timestamptz,
      version integer not null default 1,
      constraint daybook_view_whose check (case scope
        when 'personal' then account_id is not null and site_id is null
        when 'site' then account_id is null and site_id is not null
        when 'shared' then account_id is null and site_id is null
        else false end)
    )`);
    // A number key means one thing to whom it is offered by the same list.
    this.addSql(
      'create unique index daybook_view_hotkey_once on daybook_view (account_id, site_id, hotkey) nulls not distinct where hotkey is not null and removed_at is null',
    );
    this.addSql(`create table daybook_view_default (
      role text primary key constraint daybook_view_default_role_check check (role in ('manager','coordinator','front-desk','provider','read-only')),
      view_id uuid not null references daybook_view
    )`);
    this.addSql(
      'alter table visit_type add column expected_fee_usd integer constraint visit_type_expected_fee_usd_check check (expected_fee_usd between 0 and 1000000)',
    );
  }
}
