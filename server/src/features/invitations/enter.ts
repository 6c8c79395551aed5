import type { OVER } from '@zaguan/contracts/invitations';
import { visitInstead } from '@zaguan/core/invitations';
import { comingTypesOf } from '@zaguan/core/recalls';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { hashOfToken } from '../linkTokens/index.ts';
import { judgeBirthDate } from '../patientVisit/index.ts';
import { invitationOfLink, type LinkedInvitation } from './enter.sql.ts';
import { noteEvents } from './invitations.repository.ts';

export type Over = (typeof OVER)[number];

/** Why nothing can be booked with it any more; `null`: it can still be used. */
export function overBecause(
  { endedAs, usesLeft, rules, stands, expiresAt, status }: LinkedInvitation,
  now: Date,
): Over | null {
  // A request and a visit that moves are done with by the first visit, however often the template books.
  if (endedAs === 'used' || usesLeft === 0 || (!stands && usesLeft < rules.uses)) return 'used';
  // Nothing is said of a record that is closed.
  if (endedAs === 'withdrawn' || !stands || status === 'deceased' || status === 'archived' || status === 'inactive')
    return 'withdrawn';
  if (endedAs === 'declined' || endedAs === 'later' || endedAs === 'done-elsewhere') return 'answered';
  return endedAs === 'expired' || new Date(expiresAt) <= now ? 'expired' : null;
}

/** A coming visit that makes it needless: booked by phone, or by whomever. */
export function bookedAlready({ coming, moveId, planRules, rules }: LinkedInvitation) {
  const comingTypeIds = planRules ? comingTypesOf(planRules) : rules.typeIds;
  return visitInstead({ coming, comingTypeIds, moves: moveId !== null, uses: rules.uses });
}

type Locked = Failure<'LinkGone' | 'LinkLocked' | 'WrongBirthDate'>;

/** Checks link and date of birth, at every call; what is over is shown as such. The desk is told of a locked one. */
export async function enterInvitation(
  ctx: Ctx,
  { token, birthDate }: { token: string; birthDate: string },
): Promise<LinkedInvitation | Locked> {
  const invitation = await invitationOfLink(ctx.em, hashOfToken(token), ctx.now);
  if (!invitation) return ctx.fail('LinkGone');
  const wrong = await judgeBirthDate(ctx, invitation, birthDate);
  if (wrong === null) return invitation;
  if (wrong.lockedNow) {
    await noteEvents(ctx.em, [invitation.id], { kind: 'locked', at: ctx.now });
    ctx.emit({ type: 'work-changed' });
  }
  return wrong.failure;
}
