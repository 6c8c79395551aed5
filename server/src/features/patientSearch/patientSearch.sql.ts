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

type FindableRow = Omit<Findable, 'patientId' | 'recency'> & {
  readonly id: Patient['id'];
  /** Seconds. */
  readonly recency: number;
};

/** Searched at each key: planning would take longer than finding. */
const PREPARED = { isPrepared: true } as const;

const MAY_SEE = `p.status <> 'archived' and (:restricted or not p.restricted)`;
const RECORD = `lower(regexp_replace(p.record_number, '[^A-Za-z0-9]', '', 'g'))`;
const FIGURES = `ltrim(regexp_replace(p.record_number, '\\D', '', 'g'), '0')`;
/** The patients of one kind of way, each way by itself. */
const each = (by: Way['by'], found: string) =>
  `select y.n, z.id from way y cross join lateral (${found} limit :most) z where y.by = '${by}'`;
const byContact = (condition: string) =>
  `select distinct p.id from contact_point cp join patient_contact pc on pc.contact_point_id = cp.id join patient p on p.id = pc.patient_id where ${condition} and ${MAY_SEE}`;
const between = (expression: string) => `${expression} collate "C" >= y.low and ${expression} collate "C" < y.high`;

const OF_THESE = 'patient_id = any(array(select id from found)) group by patient_id';
/** What ranking asks of those found, of all of them at once: their ids never leave the database. */
const FACTS = `select p.id, p.record_number, p.given_name, p.family_name, p.preferred_name, p.birth_date::text, coalesce(f.names, '[]') as former_names,
     coalesce(c.phones, '[]') as phones, coalesce(c.emails, '[]') as emails, extract(epoch from coalesce(a.at, p.created_at))::float8 as recency
   from patient p
   left join (select patient_id, json_agg(json_build_object('givenName', given_name, 'familyName', family_name)) as names from patient_former_name where ${OF_THESE}) f on f.patient_id = p.id
   left join (select patient_id, json_agg(cp.value order by pc.rank) filter (where cp.kind = 'phone') as phones, json_agg(cp.value order by pc.rank) filter (where cp.kind = 'email') as emails
     from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where ${OF_THESE}) c on c.patient_id = p.id
   left join (select patient_id, max(starts_at) as at from appointment where ${OF_THESE}) a on a.patient_id = p.id
   where p.id = any(array(select id from found))`;

const BY_WORDS = statement<
  { ranges: string; driver: number; bornFrom: string; bornUntil: string; restricted: boolean; most: number },
  FindableRow
>(
  'words of a name in any order, each by its own range of one index',
  `with asked as materialized (select n, "from" collate "C" as low, "until" collate "C" as high from json_to_recordset(:ranges::json) as t(n int, "from" text, "until" text)),
   found as materialized (
     select p.id from asked a cross join lateral (select w.patient_id from patient_word w where w.word >= a.low and w.word < a.high offset 0) w
       cross join lateral (select * from patient p where p.id = w.patient_id limit 1) p
     where a.n = :driver and ${MAY_SEE} and p.birth_date >= :bornFrom::date and p.birth_date <= :bornUntil::date
       and not exists (select 1 from asked o where o.n <> :driver and not exists (
         select 1 from asked b join patient_word x on x.patient_id = p.id and x.word >= b.low and x.word < b.high where b.n = o.n))
     limit :most)
   ${FACTS}`,
  PREPARED,
);

const BY_RANGES = statement<{ ways: string; restricted: boolean; most: number }, FindableRow & { isCut: boolean }>(
  'every other way in one trip, each by a range of an index of its own',
  `with way as materialized (select n, by, low collate "C" as low, high collate "C" as high, "bornFrom" as born_from, "bornUntil" as born_until
     from json_to_recordset(:ways::json) as t(n int, by text, low text, high text, "bornFrom" date, "bornUntil" date)),
   found as materialized (
     ${each('contact', byContact(between('cp.value')))}
     union all ${each('phone-end', byContact(`cp.kind = 'phone' and ${between('reverse(cp.value)')}`))}
     union all ${each('record', `select p.id from patient p where ${between(RECORD)} and ${MAY_SEE}`)}
     union all ${each('figures', `select p.id from patient p where ${between(FIGURES)} and ${MAY_SEE}`)}
     union all ${each('born', `select p.id from patient p where p.birth_date >= y.born_from and p.birth_date <= y.born_until and ${MAY_SEE}`)})
   select of_these.*, exists (select 1 from found group by n having count(*) >= :most) as is_cut from (${FACTS}) of_these`,
  PREPARED,
);

const FACTS_OF = statement<{ ids: readonly string[] }, FindableRow>(
  'what belongs to each in lists',
  `with found as materialized (select unnest(:ids::uuid[]) as id) ${FACTS}`,
  PREPARED,
);

export interface Born {
  readonly bornFrom: string;
  readonly bornUntil: string;
}

/** One of the ways in which patients are looked up; what else was typed is judged by core. */
export type Way =
  | ({ readonly by: 'words'; readonly ranges: readonly WordRange[]; readonly driver: number } & Born)
  | {
      readonly by: 'contact' | 'phone-end' | 'record' | 'figures';
      readonly low: string;
      readonly high: string;
    }
  | ({ readonly by: 'born' } & Born);

const toFindable = ({ id, ...row }: FindableRow): Findable => ({ ...row, patientId: id });

/** Patients who may be meant in any of these ways, whom the reader may see and who were not merged away. */
export async function proposed(
  em: SqlEntityManager,
  ways: readonly Way[],
  reader: { readonly restricted: boolean; readonly most: number },
): Promise<{ patients: Findable[]; isCut: boolean }> {
  const others = ways.filter((way) => way.by !== 'words').map((way, n) => ({ ...way, n }));
  const found = others.length ? await rowsOf(em, BY_RANGES, { ways: JSON.stringify(others), ...reader }) : [];
  const patients = found.map(({ isCut: _, ...row }) => toFindable(row));
  let isCut = found.some((row) => row.isCut);
  for (const way of ways) {
    if (way.by !== 'words') continue;
    const { ranges, driver, bornFrom, bornUntil } = way;
    const asked = { ranges: JSON.stringify(ranges), driver, bornFrom, bornUntil };
    const some = await rowsOf(em, BY_WORDS, { ...asked, ...reader });
    isCut ||= some.length === reader.most;
    patients.push(...some.map(toFindable));
  }
  return { patients, isCut };
}

/** What is known of some patients, as ranking asks it. */
export async function findables(em: SqlEntityManager, ids: readonly string[]): Promise<Findable[]> {
  return ids.length ? (await rowsOf(em, FACTS_OF, { ids })).map(toFindable) : [];
}

const LIKE_WORDS = statement<{ gaps: readonly string[] }, { readonly word: string }>(
  'words that share a gap with a typed one',
  'select distinct word from name_word_gap where gap = any(:gaps)',
  PREPARED,
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
  PREPARED,
);

/** What tells two patients apart beside their names. */
export function briefs(em: SqlEntityManager, ids: readonly string[], now: Date): Promise<Brief[]> {
  return ids.length ? rowsOf(em, BRIEFS, { ids, now }) : Promise.resolve([]);
}
