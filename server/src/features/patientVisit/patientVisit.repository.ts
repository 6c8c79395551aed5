import type { SqlEntityManager } from '@mikro-orm/postgresql';

export interface LinkedVisit {
  link_id: string;
  wrong_tries: number;
  locked_until: string | null;
  appointment_id: string;
  status: string;
  approval: string;
  confirmed_at: string | null;
  starts_at: string;
  ends_at: string;
  site_date: string;
  site_id: string;
  time_zone: string;
  clinic: string;
  phone: string;
  site: string;
  address: string;
  directions_en: string;
  directions_es: string;
  type_en: string;
  type_es: string;
  provider: string | null;
  birth_date: string | null;
  ical_sequence: number;
  cancel_until_hours: number;
  asks_to_confirm: boolean;
  preparation_en: string;
  preparation_es: string;
}

/** The visit behind a link that has not run out; locked against a second call at the same time. */
export async function visitOfLink(em: SqlEntityManager, tokenHash: Buffer, now: Date): Promise<LinkedVisit | null> {
  const rows = await em.execute<LinkedVisit[]>(
    `select l.id as link_id, l.wrong_tries, l.locked_until, a.id as appointment_id, a.status, a.approval, a.confirmed_at, a.starts_at, a.ends_at, a.site_date::text, a.site_id, a.ical_sequence, s.time_zone, c.name as clinic, s.phone,
       s.public_name as site, s.address_line || ', ' || s.city || ', ' || s.region || ' ' || s.postal_code as address, s.directions_en, s.directions_es, t.public_name_en as type_en, t.public_name_es as type_es, t.cancel_until_hours, t.asks_to_confirm, t.preparation_en, t.preparation_es,
       r.name as provider, coalesce(b.birth_date, p.birth_date)::text as birth_date
     from link_token l join appointment a on l.kind = 'visit' and a.id = l.subject_id join site s on s.id = a.site_id cross join clinic c join visit_type t on t.id = a.visit_type_id
     left join resource r on r.id = a.provider_id left join self_booking b on b.appointment_id = a.id left join patient p on p.id = a.patient_id
     where l.token_hash = ? and l.expires_at > ? for update of l`,
    [tokenHash, now],
  );
  return rows[0] ?? null;
}

export async function countWrongTry(em: SqlEntityManager, linkId: string, lockedUntil: Date | null): Promise<void> {
  await em.execute('update link_token set wrong_tries = wrong_tries + 1, locked_until = ? where id = ?', [
    lockedUntil,
    linkId,
  ]);
}

export async function resetWrongTries(em: SqlEntityManager, linkId: string): Promise<void> {
  await em.execute('update link_token set wrong_tries = 0, locked_until = null where id = ?', [linkId]);
}
