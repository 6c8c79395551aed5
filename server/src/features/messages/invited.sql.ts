/** Of a patient `p`: their visits to come, as core asks about them. */
export const COMING = `coalesce((select json_agg(json_build_object('id', a.id, 'typeId', a.visit_type_id, 'date', a.site_date)) from appointment a
       where a.patient_id = p.id and a.status in ('pending','booked') and a.starts_at > :now), '[]'::json)`;

/** Of an invitation `i`: whether what it is to still stands: the request is open, the visit that is to move is booked. */
export const STANDS = `coalesce((select r.state = 'open' from booking_request r where r.id = i.request_id),
       (select v.status = 'booked' and v.starts_at > :now from appointment v where v.id = i.move_id), true)`;
