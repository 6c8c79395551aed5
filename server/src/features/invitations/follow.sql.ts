import type { InvitationEvent } from '@zaguan/core/invitations';
import type { LocalDate } from '@zaguan/core/time';
import { type ColumnsOf, rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type {
  Appointment,
  Invitation,
  InvitationTemplate,
  Message,
  Patient,
  RecallPlanRow,
} from '../../schema/index.ts';

export type FollowedRow = Pick<
  ColumnsOf<Invitation>,
  'id' | 'version' | 'patientId' | 'planId' | 'endedAs' | 'invitedOn' | 'untilDate'
> &
  Pick<ColumnsOf<Patient>, 'givenName' | 'familyName' | 'restricted'> & {
    readonly isOver: boolean;
    readonly template: InvitationTemplate['name'];
    readonly plan: RecallPlanRow['name'] | null;
    readonly channel: Message['channel'] | null;
    readonly messageStatus: Message['status'] | null;
    readonly failReason: Message['failReason'];
    readonly body: Message['body'];
    readonly locked: boolean;
    readonly events: readonly { readonly kind: InvitationEvent; readonly at: string }[];
    readonly visit: { readonly id: string; readonly siteId: string; readonly date: LocalDate } | null;
    readonly visitStatus: Appointment['status'] | null;
  };

/** An invitation with its message, what happened to it, and the last visit booked with it. */
const WHOLE = `select i.id, i.version, i.patient_id, i.plan_id, i.ended_as, i.invited_on::text, i.until_date::text, i.expires_at <= :now as is_over,
     p.given_name, p.family_name, p.restricted, t.name as template, k.name as plan, m.channel, coalesce(m.body, '') as body, m.status as message_status, m.fail_reason,
     coalesce(l.locked_until > :now, false) as locked,
     coalesce((select json_agg(json_build_object('kind', e.kind, 'at', e.at) order by e.seq) from invitation_event e where e.invitation_id = i.id), '[]'::json) as events,
     case when a.id is not null then json_build_object('id', a.id, 'siteId', a.site_id, 'date', a.site_date) end as visit, a.status as visit_status
   from invitation i join invitation_template t on t.id = i.template_id join patient p on p.id = i.patient_id left join recall_plan k on k.id = i.plan_id
     left join message m on m.invitation_id = i.id left join link_token l on l.kind = 'invitation' and l.subject_id = i.id
     left join lateral (select v.* from invitation_event e join appointment v on v.id = e.appointment_id where e.invitation_id = i.id order by e.seq desc limit 1) a on true`;

const OF_PATIENT = statement<{ patientId: string; now: Date }, FollowedRow>(
  'gathered with their messages and events, in one trip',
  `${WHOLE} where i.patient_id = :patientId order by i.created_at desc, i.id`,
);

export function invitationsOf(em: SqlEntityManager, patientId: string, now: Date): Promise<FollowedRow[]> {
  return rowsOf(em, OF_PATIENT, { patientId, now });
}

const happened = (kind: InvitationEvent) =>
  `exists (select 1 from invitation_event e where e.invitation_id = i.id and e.kind = '${kind}')`;
/** Who opened it has it, whatever the carrier says. */
const OPENED = happened('opened');
const DELIVERED = `(m.status = 'delivered' or ${OPENED})`;

/** Whether an invitation came to a step, or ended so: each in one place, for the numbers and for those behind them. */
const CAME_TO = {
  invited: `(m.status in ('planned','sent','delivered','failed') or ${OPENED})`,
  delivered: DELIVERED,
  opened: OPENED,
  looked: happened('looked'),
  booked: happened('booked'),
  came: `exists (select 1 from invitation_event e join appointment v on v.id = e.appointment_id where e.invitation_id = i.id and v.status = 'fulfilled')`,
  'not-reached': `(m.status = 'failed' and not ${OPENED})`,
  declined: "i.ended_as in ('declined','done-elsewhere')",
  later: "i.ended_as = 'later'",
  expired: `(i.ended_as = 'expired' or i.ended_as is null and i.expires_at <= :now) and not ${happened('booked')}`,
} as const;
export type CameTo = keyof typeof CAME_TO;

const counted = (step: CameTo, as: string) => `(count(*) filter (where ${CAME_TO[step]}))::int as "${as}"`;

export interface FunnelRow {
  readonly invited: number;
  readonly delivered: number;
  readonly opened: number;
  readonly looked: number;
  readonly booked: number;
  readonly came: number;
  readonly notReached: number;
  readonly declined: number;
  readonly later: number;
  readonly expired: number;
}

const FUNNEL = statement<{ planId: string; since: LocalDate; now: Date }, FunnelRow>(
  'counted by what happened to each invitation and to its message',
  `select ${(['invited', 'delivered', 'opened', 'looked', 'booked', 'came', 'declined', 'later', 'expired'] as const)
    .map((step) => counted(step, step))
    .join(', ')}, ${counted('not-reached', 'notReached')}
   from invitation i left join message m on m.invitation_id = i.id where i.plan_id = :planId and i.invited_on >= :since`,
);

export async function funnelOf(
  em: SqlEntityManager,
  of: { planId: string; since: LocalDate; now: Date },
): Promise<FunnelRow> {
  const row = await rowOf(em, FUNNEL, of);
  if (!row) throw new Error('A count without a row.');
  return row;
}

const ofStep = (step: CameTo) =>
  statement<{ planId: string; since: LocalDate; now: Date; limit: number }, FollowedRow>(
    'gathered with their messages and events, in one trip',
    `${WHOLE} where i.plan_id = :planId and i.invited_on >= :since and ${CAME_TO[step]} order by i.created_at desc, i.id limit :limit`,
  );
const OF_STEP = Object.fromEntries((Object.keys(CAME_TO) as CameTo[]).map((step) => [step, ofStep(step)])) as Record<
  CameTo,
  ReturnType<typeof ofStep>
>;

export function invitedOfPlan(
  em: SqlEntityManager,
  { step, ...of }: { planId: string; since: LocalDate; step: CameTo; now: Date; limit: number },
): Promise<FollowedRow[]> {
  return rowsOf(em, OF_STEP[step], of);
}
