import { Migration } from '@mikro-orm/migrations';

/** Links in messages became shorter, and only their hashes are kept: the next message about a visit makes its link anew. */
export class Migration20261128_05_short_links extends Migration {
  override up(): void {
    this.addSql("delete from link_token where kind = 'visit'");
  }
}
