import { ICD_10_CM_SYSTEM } from '@zaguan/core/patients';
import type { Choice, LiveInvitation, Membership, RecallPerson } from '@zaguan/core/recalls';
import { epochToWall, type LocalDate } from '@zaguan/core/time';
import { type ColumnsOf, rowsOf, statement } from '../../platform/db/statement.ts';
import { HOME_ZONE } from '../clinic/index.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Patient, Site } from '../../schema/index.ts';

interface FactsRow
  extends Pick<ColumnsOf<Patient>, 'id' | 'birthDate' | 'sex' | 'language' | 'homeSiteId' | 'status' | 'fields'> {
  readonly timeZone: Site['timeZone'];
  readonly registeredOn: LocalDate;
  readonly codes: readonly string[];
  readonly registers: readonly Membership[];
  readonly completed: RecallPerson['completed'];
  readonly coming: RecallPerson['coming'];
  readonly reach: RecallPerson['reach'];
  readonly choices: readonly Choice[];
  readonly invitedOn: RecallPerson['invitedOn'];
  readonly live: readonly LiveInvitation[];
}

const list = (what: string, from: string) => `coalesce((select json_agg(${what}) from ${from}), '[]'::json)`;

const FACTS = statement<{ ids: readonly string[]; system: string }, FactsRow>(
  'all that any plan asks about a person, in one trip',
  `select p.id, p.birth_date::text, p.sex, p.language, p.home_site_id, p.status, p.fields, z.time_zone,
     (p.created_at at time zone z.time_zone)::date::text as registered_on,
     ${list('c.code', 'patient_code c where c.patient_id = p.id and c.system = :system')} as codes,
     ${list(`json_build_object('registerId', m.register_id, 'from', m.from_date, 'until', m.until_date)`, 'register_member m join register r on r.id = m.register_id and r.active where m.patient_id = p.id')} as registers,
     ${list(`json_build_object('typeId', a.visit_type_id, 'date', a.site_date)`, `appointment a where a.patient_id = p.id and a.status = 'fulfilled'`)} as completed,
     ${list(`json_build_object('typeId', a.visit_type_id, 'date', a.site_date)`, `appointment a where a.patient_id = p.id and a.status in ('pending','booked','arrived','checked-in')`)} as coming,
     coalesce((select case when bool_or(not opted_out(k.contact_point_id, true)) then 'open' else 'opted-out' end from patient_contact k where k.patient_id = p.id), 'none') as reach,
     ${list(`json_build_object('planId', h.plan_id, 'kind', h.kind, 'on', h.said_on, 'date', h.date)`, 'recall_choice h where h.patient_id = p.id and h.ended_at is null')} as choices,
     ${list('i.invited_on', `invitation i where i.patient_id = p.id and (i.ended_as is distinct from 'withdrawn' or exists (select 1 from message m where m.invitation_id = i.id and m.status in ('sent','delivered')))`)} as invited_on,
     ${list(`json_build_object('planId', i.plan_id, 'on', i.invited_on, 'until', i.until_date)`, 'invitation i where i.patient_id = p.id and i.ended_at is null')} as live
   from patient p ${HOME_ZONE}
   where p.id = any(:ids::uuid[]) order by p.id`,
);

/** A person as core reads them, with their own date: where their home site is, else at the clinic's first one. */
export interface PersonToday {
  readonly patientId: string;
  readonly person: RecallPerson;
  readonly today: LocalDate;
}

/** @param now the domain's present */
export async function peopleToday(
  em: SqlEntityManager,
  ids: readonly string[],
  now: Date,
): Promise<readonly PersonToday[]> {
  const rows = ids.length ? await rowsOf(em, FACTS, { ids, system: ICD_10_CM_SYSTEM }) : [];
  const minute = Math.floor(now.getTime() / 60_000);
  return rows.map(({ id, status, timeZone, ...facts }) => ({
    patientId: id,
    today: epochToWall(timeZone, minute).date,
    person: {
      ...facts,
      isInactive: status === 'inactive' || status === 'archived',
      hasDied: status === 'deceased',
    },
  }));
}
