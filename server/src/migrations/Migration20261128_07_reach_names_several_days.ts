import { Migration } from '@mikro-orm/migrations';

/** A change of hours may be meant for several days of the week: drafts that named one name a list of one. */
export class Migration20261128_07_reach_names_several_days extends Migration {
  override up(): void {
    this.addSql(
      `update schedule_draft set edits = (
         select jsonb_agg(
           case when edit->'reach' ? 'weekday'
             then jsonb_set(edit #- '{reach,weekday}', '{reach,weekdays}', jsonb_build_array(edit->'reach'->'weekday'))
             else edit end
           order by place)
         from jsonb_array_elements(edits) with ordinality as each(edit, place))
       where jsonb_path_exists(edits, '$[*].reach.weekday')`,
    );
  }
}
