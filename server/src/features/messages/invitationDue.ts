import { paced, whyNotInvited } from '@zaguan/core/invitations';
import { comingTypesOf } from '@zaguan/core/recalls';
import { afterQuiet, DEFAULT_QUIET_HOURS } from '@zaguan/core/reminders';
import { epochToWall, wallToEpoch } from '@zaguan/core/time';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Message } from '../../schema/index.ts';
import type { DueRow } from './handOver.sql.ts';
import { invitationDue } from './invitationDue.sql.ts';

interface InTheWay {
  readonly timeZone: string;
  /** It goes out never, by this rule. */
  readonly drop: Message['droppedCode'];
  /** It goes out later, by this limit. */
  readonly hold: { readonly until: Date; readonly by: 'one-a-day' | 'three-a-week' } | null;
}

/**
 * What has changed since an invitation was planned: it was withdrawn or has run out, the patient has died or has booked
 * otherwise, or the number got others meanwhile.
 */
export async function invitationInTheWay(
  em: SqlEntityManager,
  { contactPointId }: Pick<DueRow, 'contactPointId'>,
  invitationId: string,
  now: Date,
): Promise<InTheWay> {
  const facts = await invitationDue(em, invitationId, contactPointId, now);
  if (!facts) throw new Error('A message of no invitation.');
  const { timeZone } = facts;
  const dropped = (drop: InTheWay['drop']): InTheWay => ({ timeZone, drop, hold: null });
  if (facts.endedAt !== null || !facts.stands || new Date(facts.expiresAt) <= now) return dropped('invitation-over');
  const why = whyNotInvited({
    ...{ status: facts.status, holdsOne: false, isDue: null, reach: 'open' },
    ...{ coming: facts.coming, moves: facts.moveId !== null, uses: facts.rules.uses },
    comingTypeIds: facts.planRules ? comingTypesOf(facts.planRules) : facts.rules.typeIds,
  });
  if (why === 'deceased' || why === 'inactive' || why === 'booked-already') return dropped(why);
  const minute = Math.floor(now.getTime() / 60_000);
  const today = epochToWall(timeZone, minute).date;
  const { on, by } = paced(facts.sentOn, today);
  if (by === null) return { timeZone, drop: null, hold: null };
  const until = afterQuiet(wallToEpoch(timeZone, on, 0), [timeZone], DEFAULT_QUIET_HOURS);
  return { timeZone, drop: null, hold: { until: new Date(until * 60_000), by } };
}
