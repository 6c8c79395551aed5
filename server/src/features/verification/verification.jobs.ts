import { type Sweep, sweepRows } from '../../platform/jobs/sweeper.ts';

/** Codes and proofs of work that nobody can use any more, in real time. */
export const verificationSweeps: readonly Sweep[] = [
  {
    name: 'codes',
    // A message that carried a code names it; the row goes when the message does.
    run: (em) =>
      sweepRows(
        em,
        'contact_verification',
        'id',
        "coalesce(sent_at, '-infinity') < clock_timestamp() - interval '2 days' and not exists (select 1 from message m where m.verification_id = contact_verification.id)",
      ),
  },
  { name: 'proofs', run: (em) => sweepRows(em, 'spent_proof', 'signature', 'expires_at < clock_timestamp()') },
];
