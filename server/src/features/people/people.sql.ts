import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Patient } from '../../schema/index.ts';
import type { Identity } from '@zaguan/core/matching';

export type RecordRow = Identity & { patientId: string; recordNumber: string; status: string; contact: string };

/** More records like one person are not compared. */
const MAX_COMPARED = 200;

/** Records worth comparing with one person. */
export async function recordsLike(em: SqlEntityManager, typed: Identity): Promise<RecordRow[]> {
  return (await recordsLikeEach(em, [typed]))[0];
}

const ALIKE = statement<
  { people: string },
  Pick<Patient, 'id' | 'recordNumber' | 'givenName' | 'familyName' | 'preferredName' | 'birthDate' | 'status'> & {
    readonly n: number;
    readonly contacts: readonly string[];
  }
>(
  'four ways to be alike for each of several people, each by its own index',
  `select t.n, p.id, p.record_number as "recordNumber", p.given_name as "givenName", p.family_name as "familyName", p.preferred_name as "preferredName", p.birth_date::text as "birthDate", p.status,
     coalesce((select json_agg(cp.value order by pc.rank) from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = p.id), '[]') as contacts
   from json_to_recordset(:people::json) as t(n int, given text, family text, born date, contact text) cross join lateral (
     select p.id from patient p where p.birth_date = t.born
     union select pc.patient_id from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where cp.value = t.contact
     union select p.id from patient p where lower(p.family_name) like t.family and lower(p.given_name) like t.given
     union select p.id from patient p where lower(p.family_name) like t.given and lower(p.given_name) like t.family
     limit ${MAX_COMPARED}) alike join patient p on p.id = alike.id`,
);

/**
 * Records worth comparing with each of several people, in one query: same birth date, same number, or a name that begins
 * alike (also in the other field). Inactive ones included.
 */
export async function recordsLikeEach(em: SqlEntityManager, people: readonly Identity[]): Promise<RecordRow[][]> {
  if (!people.length) return [];
  const start = (name: string) => {
    const letters = name
      .slice(0, 3)
      .toLowerCase()
      .replace(/[%_\\]/g, '');
    return `${letters}%`;
  };
  const asked = people.map(({ givenName, familyName, birthDate, contacts }, n) => ({
    n,
    given: start(givenName),
    family: start(familyName),
    born: birthDate,
    contact: contacts[0] ?? '',
  }));
  const rows = await rowsOf(em, ALIKE, { people: JSON.stringify(asked) });
  const found: RecordRow[][] = people.map(() => []);
  for (const { n, id, contacts, ...row } of rows)
    found[n].push({ ...row, patientId: id, contacts, contact: contacts[0] ?? '' });
  return found;
}

const VERIFIED = statement<{ number: string }, { patientId: Patient['id'] }>(
  'only where the number still is the record’s',
  `select l.patient_id as "patientId" from contact_ledger l join contact_point cp on cp.id = l.contact_point_id
   join patient_contact pc on pc.contact_point_id = cp.id and pc.patient_id = l.patient_id
   where cp.value = :number and l.event = 'verified' and l.patient_id is not null`,
);

/** Records on which this number was proved before. */
export async function verifiedOn(em: SqlEntityManager, number: string): Promise<Set<string>> {
  const rows = await rowsOf(em, VERIFIED, { number });
  return new Set(rows.map(({ patientId }) => patientId));
}
