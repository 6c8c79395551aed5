import type { RecallPlan } from '@zaguan/core/recalls';
import type { LocalDate } from '@zaguan/core/time';
import { type ColumnsOf, rowOf, statement } from '../../platform/db/statement.ts';
import { COMING, STANDS } from '../messages/index.ts';
import { HOME_ZONE } from '../clinic/index.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type {
  Clinic,
  Invitation,
  InvitationTemplate,
  LinkToken,
  Patient,
  RecallPlanRow,
  Site,
} from '../../schema/index.ts';

export type LinkedInvitation = Pick<ColumnsOf<LinkToken>, 'wrongTries' | 'lockedUntil'> &
  Pick<
    ColumnsOf<Invitation>,
    | 'id'
    | 'version'
    | 'patientId'
    | 'planId'
    | 'requestId'
    | 'moveId'
    | 'usesLeft'
    | 'endedAs'
    | 'expiresAt'
    | 'untilDate'
  > &
  Pick<ColumnsOf<InvitationTemplate>, 'rules' | 'reason'> &
  Pick<ColumnsOf<Patient>, 'birthDate' | 'givenName' | 'status' | 'access'> &
  Pick<Site, 'timeZone'> &
  Pick<Clinic, 'phone'> & {
    readonly linkId: LinkToken['id'];
    readonly clinic: Clinic['name'];
    readonly planRules: Omit<RecallPlan, 'id'> | null;
    /** Of a request and of a visit that moves: its type, the only one that may be booked. */
    readonly askedTypeId: string | null;
    /** What it is to still stands. */
    readonly stands: boolean;
    readonly planActive: RecallPlanRow['active'] | null;
    readonly coming: readonly { readonly id: string; readonly typeId: string; readonly date: LocalDate }[];
  };

const OF_LINK = statement<{ tokenHash: Buffer; now: Date }, LinkedInvitation>(
  'a lock; a link belongs to an invitation by kind and subject, without a foreign key',
  `select l.id as link_id, l.wrong_tries, l.locked_until, i.id, i.version, i.patient_id, i.plan_id, i.request_id, i.move_id, i.uses_left, i.ended_as, i.expires_at, i.until_date::text,
     t.rules, t.reason, p.birth_date::text, p.given_name, p.status, p.access, z.time_zone, c.name as clinic, c.phone, k.rules as plan_rules, coalesce((select r.visit_type_id from booking_request r where r.id = i.request_id), (select v.visit_type_id from appointment v where v.id = i.move_id)) as asked_type_id, k.active as plan_active,
     ${COMING} as coming, ${STANDS} as stands
   from link_token l join invitation i on l.kind = 'invitation' and i.id = l.subject_id join invitation_template t on t.id = i.template_id join patient p on p.id = i.patient_id
     cross join clinic c left join recall_plan k on k.id = i.plan_id
     ${HOME_ZONE}
   where l.token_hash = :tokenHash and l.expires_at > :now for update of l, i`,
);

/** The invitation behind a link; locked against a second call at the same time. */
export async function invitationOfLink(
  em: SqlEntityManager,
  tokenHash: Buffer,
  now: Date,
): Promise<LinkedInvitation | null> {
  const row = await rowOf(em, OF_LINK, { tokenHash, now });
  return row && (row.askedTypeId === null ? row : { ...row, rules: { ...row.rules, typeIds: [row.askedTypeId] } });
}
