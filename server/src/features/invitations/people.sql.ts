import type { RecallState } from '@zaguan/core/recalls';
import type { LocalDate } from '@zaguan/core/time';
import { type ColumnsOf, rowsOf, statement } from '../../platform/db/statement.ts';
import { COMING } from '../messages/index.ts';
import { HOME_ZONE } from '../clinic/index.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { ContactPoint, Patient, Site } from '../../schema/index.ts';

export type Subject = {
  readonly planId: string | null;
  readonly requestId: string | null;
  readonly moveId: string | null;
  readonly templateId: string;
};

/** All that decides whether somebody is invited, where and when. */
export type InviteeRow = Pick<ColumnsOf<Patient>, 'id' | 'givenName' | 'familyName' | 'status' | 'restricted'> &
  Pick<Site, 'timeZone'> & {
    readonly language: 'en' | 'es';
    readonly contactPointId: ContactPoint['id'] | null;
    readonly contact: ContactPoint['value'] | null;
    readonly optedOut: boolean;
    readonly holdsOne: boolean;
    readonly state: RecallState | null;
    readonly coming: readonly { readonly id: string; readonly typeId: string; readonly date: LocalDate }[];
    /** Dates of invitations of whatever plan to that number or address, sent lately or planned. */
    readonly dates: readonly LocalDate[];
  };

const INVITEES = statement<{ ids: readonly string[]; now: Date } & Subject, InviteeRow>(
  'all that decides about many people, in one trip',
  `select p.id, p.given_name, p.family_name, p.language, p.status, p.restricted, z.time_zone, c.id as contact_point_id, c.value as contact,
     c.id is null and exists (select 1 from patient_contact k where k.patient_id = p.id) as opted_out,
     exists (select 1 from invitation i where i.patient_id = p.id and i.ended_at is null and i.expires_at > :now and i.subject_id = coalesce(:planId::uuid, :requestId::uuid, :moveId::uuid, :templateId::uuid)) as holds_one,
     (select t.state from recall_state t where t.patient_id = p.id and t.plan_id = :planId::uuid) as state,
     ${COMING} as coming,
     coalesce((select json_agg((coalesce(m.sent_at, m.send_at) at time zone z.time_zone)::date) from message m
       where m.contact_point_id = c.id and m.kind = 'invitation' and m.status in ('planned','sent','delivered') and coalesce(m.sent_at, m.send_at) > :now::timestamptz - interval '8 days'), '[]'::json) as dates
   from patient p
     ${HOME_ZONE}
     left join lateral (select cp.id, cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id
       where pc.patient_id = p.id and not opted_out(cp.id, true) order by pc.rank, cp.kind desc limit 1) c on true
   where p.id = any(:ids::uuid[])`,
);

/** Patients as they are now, for an invitation to one thing, in no order. */
export function inviteesOf(
  em: SqlEntityManager,
  ids: readonly string[],
  subject: Subject,
  now: Date,
): Promise<InviteeRow[]> {
  return rowsOf(em, INVITEES, { ids, now, ...subject });
}

const LOCK = statement<Record<never, never>, never>(
  'an advisory lock',
  "select pg_advisory_xact_lock(hashtextextended('zaguan.invitations', 0))",
);

/** Invitations are sent by one at a time: what one has planned for a number, the next one sees. */
export async function lockInvitations(em: SqlEntityManager): Promise<void> {
  await rowsOf(em, LOCK, {});
}
