import { Migration } from '@mikro-orm/migrations';

/** Private addresses under which a calendar program follows a schedule. Only the token's hash is kept. */
export class Migration20261127_10_feeds extends Migration {
  override up(): void {
    this.addSql(`create table calendar_feed (
      id uuid primary key, resource_id uuid not null references resource, token_hash bytea not null unique, detailed boolean not null,
      created_at timestamptz not null, created_by uuid not null references account, last_read_at timestamptz, revoked_at timestamptz
    )`);
    this.addSql('create index calendar_feed_resource on calendar_feed (resource_id) where revoked_at is null');
  }
}
