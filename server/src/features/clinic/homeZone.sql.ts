/**
 * A patient's own zone, as `z.time_zone` beside `p`: where their home site is, else at the clinic's first one. What is of
 * a patient and of no visit (when somebody is due, when they may be written to) is dated by it.
 */
export const HOME_ZONE =
  'join lateral (select s.time_zone from site s order by s.id = p.home_site_id desc nulls last, s.sort_order, s.id limit 1) z on true';
