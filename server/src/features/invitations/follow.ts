import type { InputOf } from '@zaguan/contracts';
import type {
  FollowedInvitation,
  invitationsOfPatient as ofPatientContract,
  planFunnel as funnelContract,
  planInvited as ofPlanContract,
} from '@zaguan/contracts/invitations';
import { invitationState } from '@zaguan/core/invitations';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { catchUp, dueCount, nameFor, patientFor } from '../recalls/index.ts';
import { type FollowedRow, funnelOf, invitationsOf, invitedOfPlan } from './follow.sql.ts';
import { planOf } from './invitations.repository.ts';

const SHOWN = 200;

async function toFollowed(ctx: Ctx, row: FollowedRow): Promise<{ invitation: FollowedInvitation; hidden: boolean }> {
  const { id, version, patientId, givenName, familyName, restricted, template, planId, plan, locked, channel } = row;
  const { name, hidden } = await nameFor(ctx, { id: patientId, givenName, familyName, restricted });
  const events = row.events.map(({ kind, at }) => ({ kind, at: new Date(at).toISOString() }));
  const state = invitationState({
    ...{ endedAs: row.endedAs, isOver: row.isOver, events: events.map(({ kind }) => kind) },
    message: row.messageStatus ?? 'withdrawn',
  });
  return {
    hidden,
    invitation: {
      ...{ id, version, patientId, name, template, planId, plan, state, locked, channel, events },
      ...{ invitedOn: row.invitedOn, until: row.untilDate, isLive: row.endedAs === null && !row.isOver },
      ...{ failReason: row.failReason, visit: row.visit, body: hidden ? '' : row.body },
    },
  };
}

async function allFollowed(ctx: Ctx, rows: readonly FollowedRow[]): Promise<FollowedInvitation[]> {
  const all = [];
  for (const row of rows) all.push(await toFollowed(ctx, row));
  ctx.viewed([...new Set(all.flatMap(({ invitation, hidden }) => (hidden ? [] : [invitation.patientId])))]);
  return all.map(({ invitation }) => invitation);
}

export async function invitationsOfPatient(
  ctx: Ctx,
  { patientId }: InputOf<typeof ofPatientContract>,
): Promise<AnswerOf<typeof ofPatientContract>> {
  const patient = await patientFor(ctx, patientId);
  if (patient instanceof Failure) return patient;
  return { invitations: await allFollowed(ctx, await invitationsOf(ctx.em, patientId, ctx.now)) };
}

export async function planFunnel(
  ctx: Ctx,
  { planId, since }: InputOf<typeof funnelContract>,
): Promise<AnswerOf<typeof funnelContract>> {
  if (!(await planOf(ctx.em, planId))) return ctx.fail('NotFound');
  await catchUp(ctx.em, ctx.now);
  const { notReached, declined, later, expired, ...steps } = await funnelOf(ctx.em, { planId, since, now: ctx.now });
  return { due: await dueCount(ctx, planId), steps, notReached, declined, later, expired };
}

export async function planInvited(
  ctx: Ctx,
  { planId, since, step }: InputOf<typeof ofPlanContract>,
): Promise<AnswerOf<typeof ofPlanContract>> {
  if (!(await planOf(ctx.em, planId))) return ctx.fail('NotFound');
  const rows = await invitedOfPlan(ctx.em, { planId, since, step, now: ctx.now, limit: SHOWN + 1 });
  return { invitations: await allFollowed(ctx, rows.slice(0, SHOWN)), more: rows.length > SHOWN };
}
