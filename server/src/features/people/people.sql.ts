import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Patient } from '../../schema/index.ts';
import type { Identity } from '@zaguan/core/matching';

export type RecordRow = Identity & {
  patientId: string;
  recordNumber: string;
  status: Patient['status'];
  contact: string;
  proved: boolean;
};

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
    /** The number was proved on this record before, and still is the record's. */
    readonly proved: boolean;
  }
>(
  'four ways to be alike for each of several people, each by its own index',
  `select t.n, p.id, p.record_number, p.given_name, p.family_name, p.preferred_name, p.birth_date::text, p.status,
     coalesce((select json_agg(cp.value order by pc.rank) from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = p.id), '[]') as contacts,
     exists (select 1 from contact_point cp join patient_contact pc on pc.contact_point_id = cp.id and pc.patient_id = p.id
       join contact_ledger l on l.contact_point_id = cp.id and l.patient_id = p.id and l.event = 'verified' where cp.value = t.contact) as proved
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
