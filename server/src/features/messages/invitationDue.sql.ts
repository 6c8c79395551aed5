import type { RecallPlan } from '@zaguan/core/recalls';
import type { LocalDate } from '@zaguan/core/time';
import { type ColumnsOf, rowOf, statement } from '../../platform/db/statement.ts';
import { COMING, STANDS } from './invited.sql.ts';
import { HOME_ZONE } from '../clinic/index.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Invitation, InvitationTemplate, Patient, Site } from '../../schema/index.ts';

export type InvitationDue = Pick<ColumnsOf<Invitation>, 'endedAt' | 'expiresAt' | 'planId' | 'moveId'> &
  Pick<ColumnsOf<InvitationTemplate>, 'rules'> &
  Pick<Patient, 'status'> &
  Pick<Site, 'timeZone'> & {
    readonly planRules: RecallPlan | null;
    /** What it is to still stands. */
    readonly stands: boolean;
    readonly coming: readonly { readonly id: string; readonly typeId: string; readonly date: LocalDate }[];
    /** On which dates invitations of whatever plan went to the number or address lately. */
    readonly sentOn: readonly LocalDate[];
  };

const INVITATION = statement<{ id: string; contactPointId: string; now: Date }, InvitationDue>(
  'the home site’s zone, and visits and messages gathered beside the invitation, in one trip',
  `select i.ended_at, i.expires_at, i.plan_id, i.move_id, t.rules, p.status, z.time_zone, k.rules as plan_rules,
     ${COMING} as coming, ${STANDS} as stands,
     coalesce((select json_agg((m.sent_at at time zone z.time_zone)::date) from message m
       where m.contact_point_id = :contactPointId and m.kind = 'invitation' and m.status in ('sent','delivered') and m.sent_at > :now::timestamptz - interval '8 days'), '[]'::json) as sent_on
   from invitation i join invitation_template t on t.id = i.template_id join patient p on p.id = i.patient_id left join recall_plan k on k.id = i.plan_id
     ${HOME_ZONE}
   where i.id = :id`,
);

/** An invitation as it is at the moment in which its message would go out. */
export function invitationDue(
  em: SqlEntityManager,
  id: string,
  contactPointId: string,
  now: Date,
): Promise<InvitationDue | null> {
  return rowOf(em, INVITATION, { id, contactPointId, now });
}
