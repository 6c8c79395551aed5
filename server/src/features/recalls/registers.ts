import type { InputOf } from '@zaguan/contracts';
import type {
  putOnRegister as putContract,
  registerPeople as peopleContract,
  takeOffRegister as takeContract,
} from '@zaguan/contracts/recalls';
import { addDays } from '@zaguan/core/time';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { RegisterMember } from '../../schema/index.ts';
import { peopleToday } from './facts.sql.ts';
import { catchUp } from './keeper.ts';
import { nameFor, patientFor } from './people.ts';
import {
  deleteMember,
  endMember,
  insertMember,
  isOnRegister,
  memberForUpdate,
  membersNow,
  membersOf,
  registerRow,
} from './recalls.repository.ts';

/** More are not looked through on a screen. */
const MEMBERS_SHOWN = 300;

/** Who is, and who was, on a register. */
export async function registerPeople(
  ctx: Ctx,
  { registerId }: InputOf<typeof peopleContract>,
): Promise<AnswerOf<typeof peopleContract>> {
  if (!(await registerRow(ctx.em, registerId))) return ctx.fail('NotFound');
  await catchUp(ctx.em, ctx.now);
  const people = [];
  const seen: string[] = [];
  const members = await membersOf(ctx.em, registerId, MEMBERS_SHOWN + 1);
  for (const member of members.slice(0, MEMBERS_SHOWN)) {
    const { id, patientId, patient, fromDate, untilDate, how, addedByAccount, endedByAccount } = member;
    const { name, hidden } = await nameFor(ctx, patient);
    if (!hidden) seen.push(patientId);
    people.push({
      ...{ memberId: id, patientId, name, from: fromDate, until: untilDate, how },
      addedBy: addedByAccount?.name ?? null,
      endedBy: endedByAccount?.name ?? null,
    });
  }
  ctx.viewed(seen);
  return { now: await membersNow(ctx.em, registerId), more: members.length > MEMBERS_SHOWN, people };
}

const noted = (
  ctx: Ctx,
  { id, registerId, patientId }: Pick<RegisterMember, 'id' | 'registerId' | 'patientId'>,
  on: boolean,
) => {
  ctx.emit({ type: 'recalls-changed' });
  ctx.wrote({
    subjects: [
      { kind: 'register-member', id },
      { kind: 'register', id: registerId },
      { kind: 'patient', id: patientId },
    ],
    before: { on: !on },
    after: { on },
  });
};

/** Puts somebody on a register that is kept by hand, from today on. */
export async function putOnRegister(
  ctx: Ctx,
  { registerId, patientId }: InputOf<typeof putContract>,
): Promise<AnswerOf<typeof putContract>> {
  const register = await registerRow(ctx.em, registerId);
  if (!register?.active) return ctx.fail('NotFound');
  // A register with a rule keeps itself: it would take them off again.
  if (register.rule) return ctx.fail('KeptByRule');
  const patient = await patientFor(ctx, patientId);
  if (patient instanceof Failure) return patient;
  const [{ today }] = await peopleToday(ctx.em, [patientId], ctx.now);
  const member: RegisterMember = {
    ...{ id: ctx.newId(), registerId, patientId, fromDate: today, untilDate: null, how: 'hand' },
    ...{ addedBy: ctx.actor.kind === 'staff' ? ctx.actor.accountId : null, endedBy: null },
  };
  if (!(await insertMember(ctx.em, member))) return ctx.fail('OnRegister');
  noted(ctx, member, true);
  const undo = await ctx.undoable({
    command: 'recalls.neverOnRegister',
    input: { id: member.id },
    label: { what: 'register-put' },
  });
  return { undo };
}

/** Inverse of putting on: they never were. */
export async function neverOnRegister(ctx: Ctx, { id }: { id: string }): Promise<UndoAnswer> {
  const member = await memberForUpdate(ctx.em, id);
  if (!member) return ctx.fail('NotFound');
  await deleteMember(ctx.em, id);
  noted(ctx, member, false);
  return {};
}

/** Takes somebody off: they were on it until yesterday; whoever was put on it only today was never on it. */
export async function takeOffRegister(
  ctx: Ctx,
  { id }: InputOf<typeof takeContract>,
): Promise<AnswerOf<typeof takeContract>> {
  const member = await memberForUpdate(ctx.em, id);
  if (!member) return ctx.fail('NotFound');
  const patient = await patientFor(ctx, member.patientId);
  if (patient instanceof Failure) return patient;
  // Whoever a rule put on it, while it had one, is taken off by hand now.
  if ((await registerRow(ctx.em, member.registerId))?.rule) return ctx.fail('KeptByRule');
  if (member.untilDate !== null) return ctx.fail('ChangedMeanwhile', { facts: {} });
  const [{ today }] = await peopleToday(ctx.em, [member.patientId], ctx.now);
  const untilDate = member.fromDate >= today ? member.fromDate : addDays(today, -1);
  await endMember(ctx.em, id, { untilDate, endedBy: ctx.actor.kind === 'staff' ? ctx.actor.accountId : null });
  noted(ctx, member, false);
  const undo = await ctx.undoable({
    command: 'recalls.stillOnRegister',
    input: { id, untilDate },
    label: { what: 'register-ended' },
  });
  return { undo };
}

/** Inverse of taking off, unless they were put on it again since. */
export async function stillOnRegister(
  ctx: Ctx,
  { id, untilDate }: { id: string; untilDate: string },
): Promise<UndoAnswer> {
  const member = await memberForUpdate(ctx.em, id);
  if (!member) return ctx.fail('NotFound');
  const patient = await patientFor(ctx, member.patientId);
  if (patient instanceof Failure) return patient;
  const register = await registerRow(ctx.em, member.registerId);
  const open = await isOnRegister(ctx.em, member);
  if (member.untilDate !== untilDate || open || !register?.active || register.rule)
    return ctx.fail('ChangedMeanwhile', { facts: {} });
  await endMember(ctx.em, id, { untilDate: null, endedBy: null });
  noted(ctx, member, true);
  return {};
}
