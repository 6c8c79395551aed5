import { Migration } from '@mikro-orm/migrations';

/**
 * Patients by the words of their names, folded as core folds them. The application writes the words; the database says
 * whose are still to be written, and keeps every word's gaps: the word with each of its letters left out in turn. Two words
 * one slip apart have a gap in common.
 */
export class Migration20261128_11_patients_are_found extends Migration {
  override up(): void {
    this.addSql('alter table patient add column is_findable boolean not null default false');
    this.addSql('create index patient_not_findable on patient (id) where not is_findable');
    this.addSql(`create table patient_former_name (
      id uuid primary key,
      patient_id uuid not null references patient on delete cascade,
      given_name text not null default '',
      family_name text not null default '',
      ended_at timestamptz not null,
      constraint patient_former_name_is_a_name check (given_name <> '' or family_name <> '')
    )`);
    this.addSql('create index patient_former_name_of on patient_former_name (patient_id)');
    this.addSql(`create table patient_word (
      word text collate "C" not null,
      patient_id uuid not null references patient on delete cascade,
      primary key (word, patient_id)
    )`);
    this.addSql('create index patient_word_of on patient_word (patient_id, word)');
    this.addSql('create table name_word (word text collate "C" primary key)');
    this.addSql(`create table name_word_gap (
      gap text collate "C" not null,
      word text collate "C" not null references name_word on delete cascade,
      primary key (gap, word)
    )`);
    this.addSql(`create function patient_names_changed() returns trigger language plpgsql as $$
      begin
        if tg_op = 'INSERT' or (old.given_name, old.family_name, old.preferred_name) is distinct from (new.given_name, new.family_name, new.preferred_name) then
          new.is_findable := false;
        end if;
        return new;
      end $$`);
    this.addSql(
      'create trigger patient_names_changed before insert or update of given_name, family_name, preferred_name on patient for each row execute function patient_names_changed()',
    );
    this.addSql(`create function patient_former_names_changed() returns trigger language plpgsql as $$
      begin
        update patient set is_findable = false where id in (new.patient_id, old.patient_id) and is_findable;
        return null;
      end $$`);
    this.addSql(
      'create trigger patient_former_names_changed after insert or update or delete on patient_former_name for each row execute function patient_former_names_changed()',
    );
    this.addSql(`create function patient_word_is_known() returns trigger language plpgsql as $$
      begin
        -- In one order everywhere: two who write the same words at once wait for each other, and never in a ring.
        insert into name_word select distinct word from written order by word on conflict do nothing;
        insert into name_word_gap
          select distinct overlay(w.word placing '' from i for 1), w.word
          from (select distinct word from written) w, generate_series(1, char_length(w.word)) i
          where char_length(w.word) between 3 and 40
          union select word, word from written where char_length(word) between 3 and 40
          order by 1, 2 on conflict do nothing;
        return null;
      end $$`);
    this.addSql(
      'create trigger patient_word_is_known after insert on patient_word referencing new table as written for each statement execute function patient_word_is_known()',
    );
    this.addSql('create index contact_point_begins on contact_point (value collate "C")');
    this.addSql(`create index contact_point_ends on contact_point (reverse(value) collate "C") where kind = 'phone'`);
    this.addSql(
      `create index patient_record_begins on patient (lower(regexp_replace(record_number, '[^A-Za-z0-9]', '', 'g')) collate "C")`,
    );
    this.addSql(
      `create index patient_record_figures on patient (ltrim(regexp_replace(record_number, '\\D', '', 'g'), '0') collate "C")`,
    );
    this.addSql('create index patient_contact_of_point on patient_contact (contact_point_id)');
  }
}
