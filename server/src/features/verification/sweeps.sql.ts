import { rowsOf, statement } from '../../platform/db/statement.ts';
import { type Sweep, sweepOf } from '../../platform/jobs/sweeps.sql.ts';

const OLD = "coalesce(sent_at, '-infinity') < clock_timestamp() - interval '2 days'";

const FORGET_CODES = statement<Record<never, never>, never>(
  'of codes that are old by the database’s clock',
  `update message set verification_id = null where verification_id in (select id from contact_verification where ${OLD}) and status <> 'planned'`,
);

const CODES = sweepOf(
  'codes',
  'contact_verification',
  'id',
  `${OLD} and not exists (select 1 from message m where m.verification_id = contact_verification.id)`,
);

/** Codes and proofs of work that nobody can use any more, in real time. */
export const verificationSweeps: readonly Sweep[] = [
  {
    name: CODES.name,
    run: async (em, now) => {
      // The message that carried a code stays; what the code was made of goes.
      await rowsOf(em, FORGET_CODES, {});
      await CODES.run(em, now);
    },
  },
  sweepOf('proofs', 'spent_proof', 'signature', 'expires_at < clock_timestamp()'),
];
