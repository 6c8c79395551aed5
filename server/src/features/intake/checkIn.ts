import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { InputOf } from '@zaguan/contracts';
import type {
  checkIn as checkInContract,
  clearFlag as clearContract,
  waive as waiveContract,
} from '@zaguan/contracts/intake';
import { MIN_IDENTIFIERS, mayWaive, waiverKey } from '@zaguan/core/intake';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { appointmentForUpdate, stamps, startEncounter, updateAppointment } from '../booking/index.ts';
import { deleteWaiver, insertClearing, insertWaiver, undoClearing } from './flags.repository.ts';
import { flagForUpdate, type OpenedFlag } from './flags.sql.ts';
import { checkInOpensOn, readyVisit, subjectsOf } from './packet.ts';

/**
 * Lets a patient through: two identifiers agreed with the record, and nothing missing that check-in waits for. Judged
 * under the visit's row lock, so that a red flag raised in the same moment still holds it.
 */
export async function checkIn(
  ctx: Ctx,
  { id, identifiers, version }: InputOf<typeof checkInContract>,
): Promise<AnswerOf<typeof checkInContract>> {
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const visit = await appointmentForUpdate(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'intake.check-in', visit.siteId)) return ctx.fail('NotAllowed');
  if (visit.version !== version)
    return ctx.fail('ChangedMeanwhile', { facts: { version: visit.version, status: visit.status } });
  if (visit.status !== 'booked' && visit.status !== 'arrived')
    return ctx.fail('WrongStatus', { facts: { from: visit.status, to: 'checked-in' } });
  const ready = await readyVisit(ctx, id);
  const asked = new Set(identifiers);
  const early = ready !== null && checkInOpensOn(ctx, ready.visit) !== null;
  const missing = ready?.readiness.items.filter((item) => item.needed && item.state === 'missing') ?? [];
  if (!ready || missing.length || early || asked.size < MIN_IDENTIFIERS || !visit.patientId)
    return ctx.fail('NotReady', {
      codes: [
        ...(early ? ['too-early'] : []),
        ...(asked.size < MIN_IDENTIFIERS ? ['identifiers'] : []),
        ...new Set<string>(missing.map(({ code }) => code)),
      ],
    });
  const from = visit.status;
  const changed = await updateAppointment(
    ctx.em,
    visit,
    {
      ...(from === 'booked' ? stamps('arrived', ctx.now) : {}),
      ...stamps('checked-in', ctx.now),
      status: 'checked-in',
    },
    ctx.now,
  );
  await startEncounter(ctx.em, {
    id: ctx.newId(),
    appointmentId: id,
    patientId: visit.patientId,
    identifiers: [...asked],
    accountId: ctx.actor.accountId,
    at: ctx.now,
  });
  ctx.emit({ type: 'visit-changed', siteId: visit.siteId, date: visit.siteDate });
  ctx.wrote({
    subjects: subjectsOf(ready.visit),
    before: { status: from },
    after: { status: 'checked-in', identifiers: [...asked] },
  });
  const undo = await ctx.undoable({
    command: 'booking.setStatus',
    input: { id, to: 'arrived', version: changed.version },
    label: { what: 'status', to: 'checked-in' },
  });
  return { version: changed.version, undo };
}

/** Lets something missing through with a reason, which stays beside it. */
export async function waive(
  ctx: Ctx,
  { id, code, documentId, reason }: InputOf<typeof waiveContract>,
): Promise<AnswerOf<typeof waiveContract>> {
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const ready = await readyVisit(ctx, id);
  if (!ready) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'intake.waive', ready.visit.siteId)) return ctx.fail('NotAllowed');
  const item = ready.readiness.items.find((each) => each.code === code && each.documentId === documentId);
  if (!item) return ctx.fail('NotFound');
  if (!mayWaive(code)) return ctx.fail('NotAllowed');
  const row = { appointmentId: id, item: waiverKey(code, documentId), reason };
  if (
    item.state !== 'missing' ||
    !(await insertWaiver(ctx.em, { ...row, accountId: ctx.actor.accountId, at: ctx.now }))
  )
    return ctx.fail('DecidedAlready');
  ctx.emit({ type: 'visit-changed', siteId: ready.visit.siteId, date: ready.visit.siteDate });
  ctx.wrote({ subjects: subjectsOf(ready.visit), after: { waived: row.item, reason } });
  const undo = await ctx.undoable({
    command: 'intake.unwaive',
    input: { id, item: row.item },
    label: { what: 'waiver' },
  });
  return { undo };
}

/** The inverse of letting through. */
export async function unwaive(ctx: Ctx, { id, item }: { id: string; item: string }): Promise<UndoAnswer> {
  const ready = await readyVisit(ctx, id);
  if (!ready) return ctx.fail('UndoGone');
  if (!coversSite(ctx, 'intake.waive', ready.visit.siteId)) return ctx.fail('NotAllowed');
  if (!(await deleteWaiver(ctx.em, id, item))) return ctx.fail('UndoGone');
  ctx.emit({ type: 'visit-changed', siteId: ready.visit.siteId, date: ready.visit.siteDate });
  ctx.wrote({ subjects: subjectsOf(ready.visit), before: { waived: item }, after: { waived: null } });
  return {};
}

/** A flag the caller may decide on, locked. */
async function openFlag(ctx: Ctx, id: string): Promise<OpenedFlag | Failure<'NotAllowed' | 'NotFound'>> {
  const flag = await flagForUpdate(ctx.em, id);
  if (!flag) return ctx.fail('NotFound');
  return coversSite(ctx, 'red-flag.clear', flag.siteId) ? flag : ctx.fail('NotAllowed');
}

function tellOfFlag(ctx: Ctx, flag: OpenedFlag, cleared: boolean): void {
  ctx.emit({ type: 'visit-changed', siteId: flag.siteId, date: flag.siteDate });
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({
    subjects: [
      { kind: 'appointment', id: flag.appointmentId },
      ...(flag.patientId ? [{ kind: 'patient', id: flag.patientId }] : []),
    ],
    after: { redFlag: flag.id, cleared },
  });
}

/** A clinician has looked at it; the note says what was found. */
export async function clearFlag(
  ctx: Ctx,
  { id, note }: InputOf<typeof clearContract>,
): Promise<AnswerOf<typeof clearContract>> {
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const flag = await openFlag(ctx, id);
  if (!('id' in flag)) return flag;
  if (flag.clearingId) return ctx.fail('DecidedAlready');
  await insertClearing(ctx.em, {
    id: ctx.newId(),
    flagId: id,
    accountId: ctx.actor.accountId,
    note,
    at: ctx.now,
  });
  tellOfFlag(ctx, flag, true);
  return { undo: await ctx.undoable({ command: 'intake.unclearFlag', input: { id }, label: { what: 'red-flag' } }) };
}

/** The inverse of clearing. */
export async function unclearFlag(ctx: Ctx, { id }: { id: string }): Promise<UndoAnswer> {
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const flag = await openFlag(ctx, id);
  if (!('id' in flag)) return flag;
  if (!flag.clearingId) return ctx.fail('UndoGone');
  await undoClearing(ctx.em, flag.clearingId, { accountId: ctx.actor.accountId, at: ctx.now });
  tellOfFlag(ctx, flag, false);
  return {};
}
