import { rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Patient } from '../../schema/index.ts';
import type { Identity } from '@zaguan/core/matching';
import { channelOf } from '@zaguan/core/messages';

export type RecordRow = Identity & {
  patientId: string;
  recordNumber: string;
  status: Patient['status'];
  restricted: boolean;
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
  Pick<
    Patient,
    'id' | 'recordNumber' | 'givenName' | 'familyName' | 'preferredName' | 'birthDate' | 'status' | 'restricted'
  > & {
    readonly n: number;
    readonly contacts: readonly string[];
    /** The number was proved on this record before, and still is the record's. */
    readonly proved: boolean;
  }
>(
  'four ways to be alike for each of several people, each by its own index',
  `select t.n, p.id, p.record_number, p.given_name, p.family_name, p.preferred_name, p.birth_date::text, p.status, p.restricted,
     coalesce((select json_agg(cp.value order by pc.rank) from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = p.id), '[]') as contacts,
     exists (select 1 from contact_point cp join patient_contact pc on pc.contact_point_id = cp.id and pc.patient_id = p.id
       join contact_ledger l on l.contact_point_id = cp.id and l.patient_id = p.id and l.event = 'verified' where cp.value = t.contact
       and not exists (select 1 from contact_ledger w where w.contact_point_id = cp.id and w.event = 'wrong-number' and w.at >= l.at)) as proved
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
    // Nothing typed is like nobody.
    return letters ? `${letters}%` : '';
  };
  const asked = people.map(({ givenName, familyName, birthDate, contacts }, n) => ({
    n,
    given: start(givenName),
    family: start(familyName),
    born: birthDate || null,
    contact: contacts[0] ?? '',
  }));
  const rows = await rowsOf(em, ALIKE, { people: JSON.stringify(asked) });
  const found: RecordRow[][] = people.map(() => []);
  for (const { n, id, contacts, ...row } of rows)
    found[n].push({ ...row, patientId: id, contacts, contact: contacts[0] ?? '' });
  return found;
}

const RECORD_NUMBER_LOCK = statement<Record<never, never>, never>(
  'an advisory lock',
  `select pg_advisory_xact_lock(hashtextextended('zaguan.record-number', 0))`,
);
const HIGHEST_RECORD_NUMBER = statement<Record<never, never>, { n: number }>(
  'the highest of a part of the column',
  `select coalesce(max(substring(record_number from 2)::int), 9999) as n from patient where record_number ~ '^B[0-9]+$'`,
);

/** The next record numbers; the lock keeps two from taking the same, and one who registers sees whom the other did. */
export async function nextRecordNumbers(em: SqlEntityManager, count = 1): Promise<Patient['recordNumber'][]> {
  await rowsOf(em, RECORD_NUMBER_LOCK, {});
  const highest = await rowOf(em, HIGHEST_RECORD_NUMBER, {});
  return Array.from({ length: count }, (_, i) => `B${(highest?.n ?? 9999) + 1 + i}`);
}

const PUT_CONTACT_POINT = statement<{ id: string; kind: string; value: string }, { id: string }>(
  'an upsert that gives the id of the row that was there',
  `insert into contact_point (id, kind, value) values (:id, :kind, :value) on conflict (kind, value) do update set value = excluded.value returning id`,
);

/** The id of a number or address, which is made if it is not there. */
export async function putContactPoint(em: SqlEntityManager, newId: string, contact: string): Promise<string> {
  const kind = channelOf(contact) === 'email' ? 'email' : 'phone';
  const row = await rowOf(em, PUT_CONTACT_POINT, { id: newId, kind, value: contact });
  return row?.id ?? newId;
}
