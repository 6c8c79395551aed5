import type { InputOf } from '@zaguan/contracts';
import type { withdrawInvitation as contract } from '@zaguan/contracts/invitations';
import { accountIdOf, type Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { Invitation } from '../../schema/index.ts';
import { patientFor } from '../recalls/index.ts';
import {
  changeInvitation,
  holdBackMessage,
  holdsAnother,
  invitationForUpdate,
  noteEvents,
  releaseMessage,
} from './invitations.repository.ts';

async function noted(ctx: Ctx, { id, patientId }: Invitation, kind: 'withdrawn' | 'restored'): Promise<void> {
  await noteEvents(ctx.em, [id], { kind, at: ctx.now, accountId: accountIdOf(ctx) });
  ctx.emit({ type: 'recalls-changed' });
  ctx.wrote({
    subjects: [
      { kind: 'invitation', id },
      { kind: 'patient', id: patientId },
    ],
    after: { withdrawn: kind === 'withdrawn' },
  });
}

async function withdraw(ctx: Ctx, invitation: Invitation): Promise<number> {
  await holdBackMessage(ctx.em, invitation.id, ctx.now);
  const version = await changeInvitation(ctx.em, invitation, { endedAs: 'withdrawn', endedAt: ctx.now });
  await noted(ctx, invitation, 'withdrawn');
  return version;
}

/** Nothing can be booked with it any more. */
export async function withdrawInvitation(
  ctx: Ctx,
  { id, version }: InputOf<typeof contract>,
): Promise<AnswerOf<typeof contract>> {
  const invitation = await invitationForUpdate(ctx.em, id);
  if (!invitation) return ctx.fail('NotFound');
  const patient = await patientFor(ctx, invitation.patientId);
  if (patient instanceof Failure) return patient;
  if (invitation.version !== version || invitation.endedAt !== null)
    return ctx.fail('ChangedMeanwhile', { facts: { version: invitation.version } });
  const undo = await ctx.undoable({
    command: 'invitations.restore',
    input: { id, version: await withdraw(ctx, invitation) },
    label: { what: 'invitation-withdrawn' },
  });
  return { undo };
}

/** Inverse of sending: those that nobody has used yet, and their messages as far as they have not gone out. */
export async function withdrawAll(ctx: Ctx, { ids }: { ids: string[] }): Promise<UndoAnswer> {
  for (const id of [...ids].sort()) {
    const invitation = await invitationForUpdate(ctx.em, id);
    if (invitation?.endedAt === null) await withdraw(ctx, invitation);
  }
  return {};
}

/** Inverse of withdrawing: it can be used again, unless another one to the same thing was sent meanwhile. */
export async function restoreInvitation(
  ctx: Ctx,
  { id, version }: { id: string; version: number },
): Promise<UndoAnswer> {
  const invitation = await invitationForUpdate(ctx.em, id);
  if (!invitation) return ctx.fail('NotFound');
  const patient = await patientFor(ctx, invitation.patientId);
  if (patient instanceof Failure) return patient;
  if (invitation.version !== version || (await holdsAnother(ctx.em, invitation)))
    return ctx.fail('ChangedMeanwhile', { facts: { version: invitation.version } });
  await releaseMessage(ctx.em, id);
  await changeInvitation(ctx.em, invitation, { endedAs: null, endedAt: null });
  await noted(ctx, invitation, 'restored');
  return {};
}
