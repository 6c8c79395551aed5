import { type ColumnsOf, rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Account, Appointment, FormResponse, RedFlag, RedFlagClearing } from '../../schema/index.ts';

export type FlagRow = Pick<
  ColumnsOf<RedFlag>,
  'id' | 'appointmentId' | 'linkId' | 'severity' | 'answer' | 'advice' | 'raisedAt'
> &
  Pick<ColumnsOf<FormResponse>, 'formId'> & {
    readonly clearedAt: string | null;
    readonly clearedBy: Account['name'] | null;
    readonly clearNote: RedFlagClearing['note'] | null;
  };

const FLAGS = statement<{ ids: readonly string[] }, FlagRow>(
  'with the clearing that stands, which is no to-one relation of the flag',
  `select f.id, f.appointment_id, r.form_id, f.link_id, f.severity, f.answer, f.advice, f.raised_at, k.at as cleared_at, c.name as cleared_by, k.note as clear_note
   from red_flag f join form_response r on r.id = f.form_response_id left join red_flag_clearing k on k.red_flag_id = f.id and k.undone_at is null left join account c on c.id = k.account_id
   where f.appointment_id = any(:ids::uuid[]) order by f.raised_at, f.id`,
);

/** Every flag of these visits, open and closed. A flag is open until a clearing of it stands. */
export function flagsOf(em: SqlEntityManager, ids: readonly string[]): Promise<FlagRow[]> {
  return rowsOf(em, FLAGS, { ids });
}

const RAISE = statement<
  {
    id: string;
    appointmentId: string;
    responseId: string;
    linkId: string;
    severity: string;
    answer: string;
    advice: string;
    at: Date;
  },
  { id: string }
>(
  'inserted only if no flag of the question is open',
  `insert into red_flag (id, appointment_id, form_response_id, link_id, severity, answer, advice, raised_at)
   select :id::uuid, :appointmentId::uuid, :responseId::uuid, :linkId::text, :severity::text, :answer::jsonb, :advice::jsonb, :at::timestamptz
   where not exists (select 1 from red_flag f where f.form_response_id = :responseId::uuid and f.link_id = :linkId::text
     and not exists (select 1 from red_flag_clearing k where k.red_flag_id = f.id and k.undone_at is null)) returning id`,
);

/**
 * Raises a flag unless the same question's flag is still open; the answers' row is locked by the caller. One that was
 * cleared stays as it was, with who cleared it: the same answer again is a new flag. Says whether one was raised.
 */
export async function raiseFlag(
  em: SqlEntityManager,
  flag: Pick<RedFlag, 'id' | 'appointmentId' | 'linkId' | 'severity' | 'answer' | 'advice'> & {
    readonly responseId: string;
    readonly at: Date;
  },
): Promise<boolean> {
  const raised = await rowOf(em, RAISE, {
    ...flag,
    answer: JSON.stringify(flag.answer),
    advice: JSON.stringify(flag.advice),
  });
  return raised !== null;
}

export type OpenedFlag = Pick<ColumnsOf<RedFlag>, 'id' | 'appointmentId'> &
  Pick<ColumnsOf<Appointment>, 'siteId' | 'siteDate' | 'patientId'> & {
    /** The clearing that stands. */
    readonly clearingId: string | null;
  };

const FOR_UPDATE = statement<{ id: string }, OpenedFlag>(
  'a lock, with the clearing that stands',
  `select f.id, f.appointment_id, a.site_id, a.site_date::text, a.patient_id,
     (select k.id from red_flag_clearing k where k.red_flag_id = f.id and k.undone_at is null) as clearing_id
   from red_flag f join appointment a on a.id = f.appointment_id where f.id = :id for update of f`,
);

/** A flag, kept from a second decision at the same time. */
export function flagForUpdate(em: SqlEntityManager, id: string): Promise<OpenedFlag | null> {
  return rowOf(em, FOR_UPDATE, { id });
}
