import type { InputOf } from '@zaguan/contracts';
import type {
  BenchEntry,
  bench as benchContract,
  ownUnplaced as ownContract,
  putOnBench as putContract,
  withdrawUnplaced as withdrawContract,
} from '@zaguan/contracts/desk';
import { faultOfParts } from '@zaguan/core/findTime';
import { mayCancel, type Part } from '@zaguan/core/visits';
import { coversSite, type Ctx, earliestDate } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { UnplacedVisit } from '../../schema/index.ts';
import { appointmentForUpdate, cancelAppointment } from '../booking/index.ts';
import { insertUnplaced, unplacedForUpdate, unplacedOfVisit, updateUnplaced } from './desk.repository.ts';
import { accountOf } from './holdAtDesk.ts';
import { areKnown } from './known.ts';
import { openRequest } from './requests.ts';
import { bookablePatients } from './resolve.ts';
import { unplacedToShow } from './rows.ts';

export async function listBench(ctx: Ctx, _: InputOf<typeof benchContract>): Promise<AnswerOf<typeof benchContract>> {
  return { unplaced: await unplacedToShow(ctx, null), unreadable: [] };
}

/** What of a booking gets its time later. */
export async function benchFromBooking(
  ctx: Ctx,
  entries: readonly BenchEntry[],
  groupId: string | null,
): Promise<string[] | Failure<'NotFound' | 'NotAllowed' | 'NotBookable' | 'ChangedMeanwhile' | 'InvalidInput'>> {
  if (!entries.length) return [];
  const patients = await bookablePatients(
    ctx,
    entries.map(({ patientId }) => patientId),
    { keep: true },
  );
  if (patients instanceof Failure) return patients;
  if (!(await areKnown(ctx, entries))) return ctx.fail('NotFound');
  if (!entries.every(({ siteId }) => siteId === null || coversSite(ctx, 'appointment.book', siteId)))
    return ctx.fail('NotAllowed');
  const wrong = await faultOfEntries(ctx, entries);
  if (wrong) return wrong;
  for (const { requestId, patientId } of entries) {
    const request = requestId === null ? null : await openRequest(ctx, requestId, patientId);
    if (request instanceof Failure) return request;
  }
  const ids: string[] = [];
  for (const { reason, parts, ...entry } of entries) {
    const id = ctx.newId();
    await insertUnplaced(ctx.em, {
      id,
      ...entry,
      parts: parts as readonly Part[] | null,
      reasonText: reason,
      appointmentId: null,
      groupId,
      since: ctx.now,
      addedBy: accountOf(ctx),
    });
    note(ctx, { id, patientId: entry.patientId }, { onBench: true });
    ids.push(id);
  }
  return ids;
}

/** Own parts that no visit of the type could have, whatever its time. */
async function faultOfEntries(ctx: Ctx, entries: readonly BenchEntry[]): Promise<Failure<'InvalidInput'> | null> {
  if (entries.every(({ parts }) => parts === null)) return null;
  const today = earliestDate(ctx);
  const { plan } = await ctx.clinic({ from: today, until: today });
  const known = new Set(plan.resources.map(({ id }) => id));
  for (const [i, { visitTypeId, parts }] of entries.entries()) {
    const type = plan.visitTypes.find(({ id }) => id === visitTypeId);
    const code = type && parts && faultOfParts(known, type, parts as readonly Part[]);
    if (code) return ctx.fail('InvalidInput', { issues: [{ path: `bench.${i}.parts`, code }] });
  }
  return null;
}

function note(ctx: Ctx, { id, patientId }: { id: string; patientId: string }, after: Record<string, unknown>): void {
  ctx.emit({ type: 'work-changed' });
  ctx.wrote({
    subjects: [
      { kind: 'unplaced-visit', id },
      { kind: 'patient', id: patientId },
    ],
    after,
  });
}

/** Puts a booked visit onto the Bench: it keeps its time until it has another, unless that is freed now. */
export async function putOnBench(
  ctx: Ctx,
  { appointmentId, version, freeNow, note: words }: InputOf<typeof putContract>,
): Promise<AnswerOf<typeof putContract>> {
  const visit = await appointmentForUpdate(ctx.em, appointmentId);
  if (!visit?.patientId) return ctx.fail('NotFound');
  const acts = ['appointment.book', ...(freeNow ? (['appointment.cancel'] as const) : [])] as const;
  if (!acts.every((action) => coversSite(ctx, action, visit.siteId))) return ctx.fail('NotAllowed');
  if (visit.version !== version) return ctx.fail('ChangedMeanwhile', { facts: { version: visit.version } });
  if (!mayCancel(visit.status)) return ctx.fail('WrongStatus', { facts: { from: visit.status, to: 'booked' } });
  if (await unplacedOfVisit(ctx.em, appointmentId)) return ctx.fail('DecidedAlready');
  let cancelled: number | null = null;
  if (freeNow) {
    const gone = await cancelAppointment(ctx, visit, { reason: 'to-be-rebooked', note: words });
    if (gone instanceof Failure) return gone;
    cancelled = gone.version;
  }
  const id = ctx.newId();
  await insertUnplaced(ctx.em, {
    id,
    patientId: visit.patientId,
    visitTypeId: visit.visitTypeId,
    appointmentId: freeNow ? null : appointmentId,
    parts: visit.parts,
    siteId: visit.siteId,
    providerId: visit.providerId,
    groupId: visit.groupId,
    reasonText: visit.reasonText,
    note: words,
    since: ctx.now,
    addedBy: accountOf(ctx),
  });
  note(ctx, { id, patientId: visit.patientId }, { onBench: true, freed: freeNow });
  const undo = await ctx.undoable({
    command: 'desk.takeOffBench',
    input: { id, restore: cancelled === null ? null : { id: appointmentId, to: visit.status, version: cancelled } },
    label: { what: 'bench' },
  });
  return { id, undo };
}

/** Something of the Bench that still waits, for the caller to change. */
async function openUnplaced(
  ctx: Ctx,
  id: string,
  version: number,
): Promise<UnplacedVisit | Failure<'NotFound' | 'NotAllowed' | 'ChangedMeanwhile'>> {
  const row = await unplacedForUpdate(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (row.siteId !== null && !coversSite(ctx, 'appointment.book', row.siteId)) return ctx.fail('NotAllowed');
  const patients = await bookablePatients(ctx, [row.patientId], { keep: false });
  if (patients instanceof Failure && patients.tag === 'NotAllowed') return ctx.fail('NotAllowed');
  if (row.version !== version || row.endedAt !== null)
    return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  return row;
}

export async function ownUnplaced(
  ctx: Ctx,
  { id, mine, version }: InputOf<typeof ownContract>,
): Promise<AnswerOf<typeof ownContract>> {
  const row = await openUnplaced(ctx, id, version);
  if (row instanceof Failure) return row;
  const next = await updateUnplaced(ctx.em, row, { ownerId: mine ? accountOf(ctx) : null });
  note(ctx, row, { owned: mine });
  return { version: next };
}

export async function withdrawUnplaced(
  ctx: Ctx,
  { id, version }: InputOf<typeof withdrawContract>,
): Promise<AnswerOf<typeof withdrawContract>> {
  const row = await openUnplaced(ctx, id, version);
  if (row instanceof Failure) return row;
  await endUnplaced(ctx, row, 'withdrawn');
  const input = { id, version: row.version + 1 };
  return { undo: await ctx.undoable({ command: 'desk.backToBench', input, label: { what: 'off-bench' } }) };
}

/** Something of the Bench to be booked now; a refusal if it was meanwhile, or is somebody else's. */
export async function takeFromBench(
  ctx: Ctx,
  id: string,
  patientId: string,
): Promise<UnplacedVisit | Failure<'NotFound' | 'ChangedMeanwhile'>> {
  const row = await unplacedForUpdate(ctx.em, id);
  const covers = row?.siteId == null || coversSite(ctx, 'appointment.book', row.siteId);
  if (!row || row.patientId !== patientId || !covers) return ctx.fail('NotFound');
  if (row.endedAt !== null) return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  return row;
}

export async function endUnplaced(ctx: Ctx, row: UnplacedVisit, endedHow: 'booked' | 'withdrawn'): Promise<void> {
  await updateUnplaced(ctx.em, row, { endedAt: ctx.now, endedHow });
  note(ctx, row, { onBench: false, endedHow });
}

/** Inverse of taking something off: it waits on. */
export async function backToBench(
  ctx: Ctx,
  { id, version }: { id: string; version: number | null },
): Promise<UndoAnswer> {
  const row = await unplacedForUpdate(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (row.endedAt === null || (version !== null && row.version !== version))
    return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  await updateUnplaced(ctx.em, row, { endedAt: null, endedHow: null });
  note(ctx, row, { onBench: true });
  return {};
}
