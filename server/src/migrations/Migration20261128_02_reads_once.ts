import { Migration } from '@mikro-orm/migrations';

/** Whether a read is in the audit already is asked with every read: by account and question, of this hour. */
export class Migration20261128_02_reads_once extends Migration {
  override up(): void {
    this.addSql(`create index audit_entry_reads on audit_entry (account_id, command, at) where kind = 'read'`);
  }
}
