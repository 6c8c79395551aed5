import type { Findable } from '@zaguan/core/patientSearch';
import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Patient, Site } from '../../schema/index.ts';

/** A word of a name from its beginning, or as it is: what lies between two texts in code-point order. */
export interface WordRange {
  /** Which word of the query it is for; a patient has one range of each. */
  readonly n: number;
  readonly from: string;
  readonly until: string;
}

export type FindableRow = Omit<Findable, 'patientId' | 'recency'> & {
  readonly id: Patient['id'];
  /** Seconds. */
  readonly recency: number;
};

/** What ranking needs to know, of patients whom the reader may see and who were not merged away. */
export const FACTS = `p.id, p.record_number, p.given_name, p.family_name, p.preferred_name, p.birth_date::text,
  coalesce((select json_agg(json_build_object('givenName', f.given_name, 'familyName', f.family_name)) from patient_former_name f where f.patient_id = p.id), '[]') as former_names,
  coalesce((select json_agg(cp.value order by pc.rank) from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id and cp.kind = 'phone' where pc.patient_id = p.id), '[]') as phones,
  coalesce((select json_agg(cp.value order by pc.rank) from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id and cp.kind = 'email' where pc.patient_id = p.id), '[]') as emails,
  extract(epoch from coalesce((select max(a.starts_at) from appointment a where a.patient_id = p.id), p.created_at))::float8 as recency`;
const MAY_SEE = `p.status <> 'archived' and (:restricted or not p.restricted)`;

const BY_WORDS = statement<
  { ranges: string; driver: number; bornFrom: string; bornUntil: string; restricted: boolean; most: number },
  FindableRow
>(
  'words of a name in any order, each by its own range of one index',
  `with asked as materialized (select n, "from" collate "C" as low, "until" collate "C" as high from json_to_recordset(:ranges::json) as t(n int, "from" text, "until" text)),
   found as (
     select p.* from (select distinct w.patient_id from asked a join patient_word w on w.word >= a.low and w.word < a.high where a.n = :driver) w
       join patient p on p.id = w.patient_id
     where ${MAY_SEE} and p.birth_date >= :bornFrom::date and p.birth_date <= :bornUntil::date
       and not exists (select 1 from asked o where o.n <> :driver and not exists (
         select 1 from asked b join patient_word x on x.patient_id = p.id and x.word >= b.low and x.word < b.high where b.n = o.n))
     limit :most)
   select ${FACTS} from found p`,
);

const byContact = (condition: string) =>
  statement<{ low: string; high: string; restricted: boolean; most: number }, FindableRow>(
    'a range of an index over an expression, and what belongs to each in lists',
    `select ${FACTS} from (select distinct pc.patient_id from contact_point cp join patient_contact pc on pc.contact_point_id = cp.id where ${condition} limit :most) c
     join patient p on p.id = c.patient_id where ${MAY_SEE}`,
  );
const byRecord = (expression: string) =>
  statement<{ low: string; high: string; restricted: boolean; most: number }, FindableRow>(
    'a range of an index over an expression, and what belongs to each in lists',
    `select ${FACTS} from patient p where ${expression} collate "C" >= :low and ${expression} collate "C" < :high and ${MAY_SEE} limit :most`,
  );

const BY_RANGE = {
  contact: byContact('cp.value collate "C" >= :low and cp.value collate "C" < :high'),
  'phone-end': byContact(
    `cp.kind = 'phone' and reverse(cp.value) collate "C" >= :low and reverse(cp.value) collate "C" < :high`,
  ),
  record: byRecord(`lower(regexp_replace(p.record_number, '[^A-Za-z0-9]', '', 'g'))`),
  figures: byRecord(`ltrim(regexp_replace(p.record_number, '\\D', '', 'g'), '0')`),
} as const;

const BORN = statement<{ bornFrom: string; bornUntil: string; restricted: boolean; most: number }, FindableRow>(
  'what belongs to each in lists',
  `select ${FACTS} from patient p where p.birth_date >= :bornFrom::date and p.birth_date <= :bornUntil::date and ${MAY_SEE} limit :most`,
);

export interface Born {
  readonly bornFrom: string;
  readonly bornUntil: string;
}

interface Reader {
  /** Restricted records are found too. */
  readonly restricted: boolean;
  readonly most: number;
}

/** One of the ways in which patients are looked up; what else was typed is judged by core. */
export type Way =
  | ({ readonly by: 'words'; readonly ranges: readonly WordRange[]; readonly driver: number } & Born)
  | { readonly by: keyof typeof BY_RANGE; readonly low: string; readonly high: string }
  | ({ readonly by: 'born' } & Born);

/** Patients who may be meant, with what ranking asks of them; never more than `most`. */
export async function proposed(em: SqlEntityManager, way: Way, reader: Reader): Promise<Findable[]> {
  const rows = await rowsProposed(em, way, reader);
  return rows.map(toFindable);
}

export const toFindable = ({ id, ...row }: FindableRow): Findable => ({ ...row, patientId: id });

function rowsProposed(em: SqlEntityManager, way: Way, reader: Reader): Promise<FindableRow[]> {
  if (way.by === 'words') {
    const { ranges, driver, bornFrom, bornUntil } = way;
    return rowsOf(em, BY_WORDS, { ranges: JSON.stringify(ranges), driver, bornFrom, bornUntil, ...reader });
  }
  if (way.by === 'born') {
    const { bornFrom, bornUntil } = way;
    return rowsOf(em, BORN, { bornFrom, bornUntil, ...reader });
  }
  const { low, high } = way;
  return rowsOf(em, BY_RANGE[way.by], { low, high, ...reader });
}

const LIKE_WORDS = statement<{ gaps: readonly string[] }, { readonly word: string }>(
  'words that share a gap with a typed one',
  'select distinct word from name_word_gap where gap = any(:gaps)',
);

/** Words of names that share one of these gaps: all that are one slip of a word apart, and some that are not. */
export async function wordsWithGaps(em: SqlEntityManager, gaps: readonly string[]): Promise<string[]> {
  return (await rowsOf(em, LIKE_WORDS, { gaps })).map(({ word }) => word);
}

export interface Brief {
  readonly id: Patient['id'];
  readonly status: Patient['status'];
  readonly restricted: boolean;
  /** The home site; where none is set, where the patient was or will be seen, nearest to the present. */
  readonly siteName: Site['name'] | null;
  readonly lastVisit: string | null;
  readonly nextVisit: { readonly id: string; readonly date: string } | null;
}

const BRIEFS = statement<{ ids: readonly string[]; now: Date }, Brief>(
  'the last and the next visit of each',
  `select p.id, p.status, p.restricted, coalesce(home.name, past.site, next.site) as site_name, past.date as last_visit, next.visit as next_visit
   from patient p left join site home on home.id = p.home_site_id
   left join lateral (select a.site_date::text as date, s.name as site from appointment a join site s on s.id = a.site_id
     where a.patient_id = p.id and a.starts_at <= :now and a.status in ('arrived','checked-in','fulfilled') order by a.starts_at desc limit 1) past on true
   left join lateral (select json_build_object('id', a.id, 'date', a.site_date) as visit, s.name as site from appointment a join site s on s.id = a.site_id
     where a.patient_id = p.id and a.starts_at > :now and a.status in ('booked','pending') order by a.starts_at limit 1) next on true
   where p.id = any(:ids::uuid[])`,
);

/** What tells two patients apart beside their names. */
export function briefs(em: SqlEntityManager, ids: readonly string[], now: Date): Promise<Brief[]> {
  return ids.length ? rowsOf(em, BRIEFS, { ids, now }) : Promise.resolve([]);
}
