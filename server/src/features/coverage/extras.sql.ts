import { rowOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, Payer, SelfBooking, VisitCoverage } from '../../schema/index.ts';

export type ExtrasRow = Pick<Appointment, 'siteId' | 'patientId'> & {
  /** Whether anything was said about paying. */
  readonly said: boolean;
} & { readonly answers: SelfBooking['answers'] | null; readonly payer: Payer['name'] | null } & {
  readonly [K in 'referralSaid' | 'state']: VisitCoverage[K] | null;
};

const EXTRAS = statement<{ id: string }, ExtrasRow>(
  'a visit with rows that belong to it, not it to them',
  `select a.site_id as "siteId", a.patient_id as "patientId", b.answers, c.appointment_id is not null as said, p.name as payer, c.referral_said as "referralSaid", c.state
   from appointment a left join self_booking b on b.appointment_id = a.id left join visit_coverage c on c.appointment_id = a.id
     left join payer p on p.id = c.payer_id where a.id = :id`,
);

export function extrasOf(em: SqlEntityManager, id: string): Promise<ExtrasRow | null> {
  return rowOf(em, EXTRAS, { id });
}
