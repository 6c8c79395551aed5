import type { InputOf } from '@zaguan/contracts';
import type { answerInvitation as contract } from '@zaguan/contracts/invitations';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { endMessages } from '../messages/index.ts';
import { noteChoice } from '../recalls/index.ts';
import type { LinkedInvitation } from './enter.sql.ts';
import { changeInvitation, contactOf, noteEvents } from './invitations.repository.ts';
import { usable } from './page.ts';

type Input = InputOf<typeof contract>;

/** The patient says no, or not now, to the plan that the invitation is of, or no to all of them. It ends with that. */
export async function answerInvitation(ctx: Ctx, input: Input): Promise<AnswerOf<typeof contract>> {
  const invitation = await usable(ctx, input);
  if (invitation instanceof Failure) return invitation;
  const { kind } = input;
  const fault = kind === 'never' ? await stopAll(ctx, invitation, input) : await keepChoice(ctx, invitation, input);
  if (fault) return fault;
  const end = kind === 'never' ? 'declined' : kind;
  await changeInvitation(ctx.em, invitation, { endedAs: end, endedAt: ctx.now });
  await noteEvents(ctx.em, [invitation.id], { kind: end, at: ctx.now });
  return {};
}

async function keepChoice(
  ctx: Ctx,
  { patientId, planId }: LinkedInvitation,
  { kind, date }: Input,
): Promise<Failure<'InvalidInput'> | null> {
  // Of no plan there is nothing that could be put off.
  if (planId === null || kind === 'never')
    return ctx.fail('InvalidInput', { issues: [{ path: 'kind', code: 'no-plan' }] });
  const said = { id: ctx.newId(), planId, patientId, kind, date, note: '', saidBy: 'patient' as const };
  const fault = await noteChoice(ctx, said);
  return fault ? ctx.fail('InvalidInput', { issues: [{ path: 'date', code: fault }] }) : null;
}

/** The number or address that it came to gets no more invitations; messages about visits go on. */
async function stopAll(ctx: Ctx, { id }: LinkedInvitation, { date }: Input): Promise<Failure<'InvalidInput'> | null> {
  if (date !== null) return ctx.fail('InvalidInput', { issues: [{ path: 'date', code: 'no-date-here' }] });
  const contactPointId = await contactOf(ctx.em, id);
  if (contactPointId)
    await endMessages(ctx, contactPointId, {
      ...{ purpose: 'recalls', wording: 'The page of an invitation.', how: 'invitation-page' },
    });
  return null;
}
