import { type Sweep, sweepRows } from '../../platform/jobs/sweeper.ts';

const OLD = "coalesce(sent_at, '-infinity') < clock_timestamp() - interval '2 days'";

/** Codes and proofs of work that nobody can use any more, in real time. */
export const verificationSweeps: readonly Sweep[] = [
  {
    name: 'codes',
    run: async (em) => {
      // The message that carried a code stays; what the code was made of goes.
      await em.execute(
        `update message set verification_id = null where verification_id in (select id from contact_verification where ${OLD}) and status <> 'planned'`,
      );
      await sweepRows(
        em,
        'contact_verification',
        'id',
        `${OLD} and not exists (select 1 from message m where m.verification_id = contact_verification.id)`,
      );
    },
  },
  { name: 'proofs', run: (em) => sweepRows(em, 'spent_proof', 'signature', 'expires_at < clock_timestamp()') },
];
