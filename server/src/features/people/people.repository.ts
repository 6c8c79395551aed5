import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { Identity } from '@zaguan/core/matching';

export type RecordRow = Identity & { patientId: string; recordNumber: string; status: string; contact: string };

/** Records worth comparing: same birth date, same number, or a name that begins alike (also in the other field). Inactive ones included. */
export async function recordsLike(em: SqlEntityManager, typed: Identity): Promise<RecordRow[]> {
  const start = (name: string) =>
    `${name
      .slice(0, 3)
      .toLowerCase()
      .replace(/[%_\\]/g, '')}%`;
  const rows = await em.execute<
    {
      id: string;
      record_number: string;
      given_name: string;
      family_name: string;
      preferred_name: string | null;
      birth_date: string;
      status: string;
      contacts: string[];
    }[]
  >(
    `select p.id, p.record_number, p.given_name, p.family_name, p.preferred_name, p.birth_date::text, p.status,
       coalesce((select json_agg(cp.value order by pc.rank) from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = p.id), '[]') as contacts
     from patient p where p.birth_date = ?::date
       or exists (select 1 from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = p.id and cp.value = ?)
       or (lower(p.family_name) like ? and lower(p.given_name) like ?) or (lower(p.family_name) like ? and lower(p.given_name) like ?) limit 200`,
    [
      typed.birthDate,
      typed.contacts[0] ?? '',
      start(typed.familyName),
      start(typed.givenName),
      start(typed.givenName),
      start(typed.familyName),
    ],
  );
  return rows.map((row) => ({
    patientId: row.id,
    recordNumber: row.record_number,
    givenName: row.given_name,
    familyName: row.family_name,
    preferredName: row.preferred_name,
    birthDate: row.birth_date,
    status: row.status,
    contacts: row.contacts,
    contact: row.contacts[0] ?? '',
  }));
}

/** Records on which this number was proved before. */
export async function verifiedOn(em: SqlEntityManager, number: string): Promise<Set<string>> {
  const rows = await em.execute<{ patient_id: string }[]>(
    `select l.patient_id from contact_ledger l join contact_point cp on cp.id = l.contact_point_id
     join patient_contact pc on pc.contact_point_id = cp.id and pc.patient_id = l.patient_id
     where cp.value = ? and l.event = 'verified' and l.patient_id is not null`,
    [number],
  );
  return new Set(rows.map((row) => row.patient_id));
}
