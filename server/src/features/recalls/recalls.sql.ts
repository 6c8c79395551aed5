import type { Concerned, RecallState } from '@zaguan/core/recalls';
import type { LocalDate } from '@zaguan/core/time';
import { type ColumnsOf, rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import { HOME_ZONE } from '../clinic/index.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Patient, RecallStateRow } from '../../schema/index.ts';

const LOCK = statement<Record<never, never>, never>(
  'an advisory lock',
  "select pg_advisory_xact_lock(hashtextextended('zaguan.recalls', 0))",
);
const TRY_LOCK = statement<Record<never, never>, { got: boolean }>(
  'an advisory lock',
  "select pg_try_advisory_xact_lock(hashtextextended('zaguan.recalls', 0)) as got",
);

/** People are looked at by one process at a time: the later look always knows more. Waits for it. */
export async function lockRecalls(em: SqlEntityManager): Promise<void> {
  await rowsOf(em, LOCK, {});
}

/** The same without waiting: `false` where somebody else is at it. */
export async function tryLockRecalls(em: SqlEntityManager): Promise<boolean> {
  return (await rowOf(em, TRY_LOCK, {}))?.got ?? false;
}

const TAKE_STALE = statement<{ limit: number }, { patientId: string }>(
  'taken away and told in one trip',
  `with noted as (select distinct patient_id from (select patient_id from recall_stale order by seq limit 5 * :limit::int) earliest limit :limit::int),
     taken as (delete from recall_stale s using noted where s.patient_id = noted.patient_id)
   select patient_id from noted`,
);

/** Whom changes were about, the earliest first; they are taken off the list. */
export async function takeStale(em: SqlEntityManager, limit: number): Promise<string[]> {
  return (await rowsOf(em, TAKE_STALE, { limit })).map(({ patientId }) => patientId);
}

const TO_LOOK_AT = statement<{ now: Date; limit: number }, { patientId: string }>(
  'by the date at each one’s home site',
  `select l.patient_id from recall_look l join patient p on p.id = l.patient_id
     ${HOME_ZONE}
   where l.look_on <= (:now::timestamptz at time zone 'UTC' + interval '14 hours')::date and l.look_on <= (:now::timestamptz at time zone z.time_zone)::date
   order by l.look_on limit :limit`,
);

/** For whom a date has come on which they may be something else. */
export async function dueForALook(em: SqlEntityManager, now: Date, limit: number): Promise<string[]> {
  return (await rowsOf(em, TO_LOOK_AT, { now, limit })).map(({ patientId }) => patientId);
}

interface Stretch {
  /** Whom plans can concern, or who is something to one that no longer does. */
  readonly ids: readonly string[];
  /** The last one of the stretch; `null`: there is nobody after. */
  readonly last: string | null;
  readonly n: number;
}

const CONCERNED = statement<Concerned & { after: string | null; stretch: number; limit: number }, Stretch>(
  'a stretch of all people, and those among them by what they have had',
  `with stretch as materialized (select id from patient where :after::uuid is null or id > :after::uuid order by id limit :stretch::int),
     concerned as (
       select s.id from stretch s
       where :everybody::boolean
         or exists (select 1 from appointment a where a.patient_id = s.id and a.status = 'fulfilled' and a.visit_type_id = any(:typeIds::uuid[]))
         or exists (select 1 from register_member m where m.patient_id = s.id and m.register_id = any(:registerIds::uuid[]))
         or exists (select 1 from recall_choice h where h.patient_id = s.id and h.plan_id = any(:planIds::uuid[]))
         or exists (select 1 from recall_state t where t.patient_id = s.id)
         or exists (select 1 from recall_look l where l.patient_id = s.id)
       order by s.id limit :limit::int)
   select array(select id::text from concerned order by id) as ids, (select id::text from stretch order by id desc limit 1) as last, (select count(*)::int from stretch) as n`,
);

/**
 * The next people, by id, whom plans can concern.
 *
 * @param stretch so many people are looked through at most
 * @returns them, and up to whom it was looked; `null`: to the end
 */
export async function concernedAfter(
  em: SqlEntityManager,
  asked: Concerned & { after: string | null; stretch: number; limit: number },
): Promise<{ ids: readonly string[]; upTo: string | null }> {
  const { ids, last, n } = (await rowOf(em, CONCERNED, asked)) as Stretch;
  if (ids.length === asked.limit) return { ids, upTo: ids[ids.length - 1] };
  return { ids, upTo: n < asked.stretch ? null : last };
}

export interface CountRow {
  readonly planId: string;
  readonly state: RecallState;
  readonly n: number;
  readonly overdue: number;
}

const COUNTS = statement<{ today: LocalDate }, CountRow>(
  'counted by plan and state',
  `select t.plan_id, t.state, count(*)::int as n, (count(*) filter (where t.state = 'due' and t.due_on + (p.rules->>'graceDays')::int < :today::date))::int as overdue
   from recall_state t join recall_plan p on p.id = t.plan_id where p.active and p.is_on and t.state <> 'not-asked-for' group by t.plan_id, t.state`,
);

export function countsByPlan(em: SqlEntityManager, today: LocalDate): Promise<CountRow[]> {
  return rowsOf(em, COUNTS, { today });
}

export type ListedRow = Pick<
  ColumnsOf<RecallStateRow>,
  'patientId' | 'state' | 'byCode' | 'facts' | 'dueOn' | 'lastOn' | 'lastTypeId' | 'count'
> &
  Pick<
    ColumnsOf<Patient>,
    'givenName' | 'familyName' | 'recordNumber' | 'birthDate' | 'language' | 'homeSiteId' | 'restricted'
  >;

const LISTED = statement<
  {
    planId: string;
    state: RecallState;
    dueBefore: LocalDate | null;
    homeSiteId: string | null;
    afterDue: LocalDate | null;
    afterId: string | null;
    limit: number;
  },
  ListedRow
>(
  // Within a state all have a due date, or none has.
  'a page by the key of its order, with whose it is',
  `select t.patient_id, t.state, t.by_code, t.facts, t.due_on::text, t.last_on::text, t.last_type_id, t.count, p.given_name, p.family_name, p.record_number, p.birth_date::text, p.language, p.home_site_id, p.restricted
   from recall_state t join patient p on p.id = t.patient_id
   where t.plan_id = :planId and t.state = :state and (:dueBefore::date is null or t.due_on < :dueBefore::date) and (:homeSiteId::uuid is null or p.home_site_id = :homeSiteId::uuid)
     and (:afterId::uuid is null or (:afterDue::date is null and t.patient_id > :afterId::uuid) or (t.due_on, t.patient_id) > (:afterDue::date, :afterId::uuid))
   order by t.due_on, t.patient_id limit :limit`,
);

export function listedPeople(
  em: SqlEntityManager,
  asked: {
    planId: string;
    state: RecallState;
    dueBefore: LocalDate | null;
    homeSiteId: string | null;
    after: { dueOn: LocalDate | null; patientId: string } | null;
    limit: number;
  },
): Promise<ListedRow[]> {
  const { after, ...rest } = asked;
  return rowsOf(em, LISTED, { ...rest, afterDue: after?.dueOn ?? null, afterId: after?.patientId ?? null });
}
