import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { createHash } from 'node:crypto';
import type { InputOf } from '@zaguan/contracts';
import type * as contract from '@zaguan/contracts/availability';
import { type ScheduleEdit, startingFrom } from '@zaguan/core/schedule';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import {
  deleteDraft,
  draftById,
  type DraftRow,
  insertDraft,
  openDrafts,
  setPublished,
  writeDraft,
} from './drafts.repository.ts';
import { refused, saveEdits, toPreview, withoutVersion } from './edits.ts';
import { evaluateEdits, PLACES_ON_DATES } from './computeImpact.ts';
import { mayEdit } from './rights.ts';
import { lockSchedule } from './schedule.sql.ts';

function toDraft(row: DraftRow): contract.Draft {
  return {
    id: row.id,
    name: row.name,
    version: row.version,
    editCount: row.edits.length,
    createdBy: row.createdBy,
    createdAt: row.createdAt.toISOString(),
  };
}

/** Rows that a draft makes have the same ids each time it is looked at, so that later edits of it can speak of them. */
export function draftIds(draftId: string): (edit: number) => string {
  const made = new Map<number, number>();
  return (edit) => {
    const n = (made.get(edit) ?? 0) + 1;
    made.set(edit, n);
    const hex = createHash('sha256').update(`${draftId}:${edit}:${n}`).digest('hex');
    // A UUID of one's own making (version 8, RFC 9562 §5.8).
    return hex.slice(0, 32).replace(/^(.{8})(.{4}).(.{3}).(.{3})(.{12})$/, '$1-$2-8$3-8$4-$5');
  };
}

/** Drafts are whole schedules: only who may change everybody's hours has to do with them. */
async function opened(
  ctx: Ctx,
  id: string,
  lock = false,
): Promise<(DraftRow & { accountId: string }) | Failure<'NotAllowed' | 'NotFound'>> {
  if ((await mayEdit(ctx)) !== 'all' || ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const draft = await draftById(ctx.em, id, lock);
  return draft ? { ...draft, accountId: ctx.actor.accountId } : ctx.fail('NotFound');
}

/** The draft as the caller saw it, kept from a second change at the same time. */
async function openedAs(ctx: Ctx, id: string, version: number) {
  const draft = await opened(ctx, id, true);
  if (draft instanceof Failure || draft.version === version) return draft;
  return ctx.fail('ChangedMeanwhile', { facts: { version: draft.version } });
}

export async function list(ctx: Ctx): Promise<AnswerOf<typeof contract.listDrafts>> {
  if ((await mayEdit(ctx)) !== 'all') return ctx.fail('NotAllowed');
  return { drafts: (await openDrafts(ctx.em)).map(toDraft) };
}

export async function create(
  ctx: Ctx,
  { name }: InputOf<typeof contract.createDraft>,
): Promise<AnswerOf<typeof contract.createDraft>> {
  if ((await mayEdit(ctx)) !== 'all' || ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  const id = ctx.newId();
  await insertDraft(ctx.em, { id, name, edits: [], at: ctx.now, accountId: ctx.actor.accountId });
  ctx.wrote({ subjects: [{ kind: 'schedule-draft', id }], after: { name } });
  return answer(ctx, id);
}

async function answer(ctx: Ctx, id: string): Promise<{ draft: contract.Draft }> {
  const row = await draftById(ctx.em, id);
  if (!row) throw new Error('a draft is gone in the transaction that wrote it');
  ctx.emit({ type: 'hours-changed' });
  return { draft: toDraft(row) };
}

/** Puts other edits into a draft, if they can be done one after the other. */
async function rewrite(ctx: Ctx, draft: DraftRow, edits: readonly ScheduleEdit[]) {
  const judged = await evaluateEdits(ctx, edits, { placesOnDates: 0, newId: draftIds(draft.id) });
  if (judged instanceof Failure) return judged;
  if (judged.resolved.faults.length) return refused(ctx, judged.resolved.faults);
  await writeDraft(ctx.em, draft.id, edits);
  ctx.wrote({
    subjects: [{ kind: 'schedule-draft', id: draft.id }],
    before: { edits: draft.edits },
    after: { edits: [...edits] },
  });
  return answer(ctx, draft.id);
}

export async function add(
  ctx: Ctx,
  { id, version, edits }: InputOf<typeof contract.addToDraft>,
): Promise<AnswerOf<typeof contract.addToDraft>> {
  const draft = await openedAs(ctx, id, version);
  return draft instanceof Failure ? draft : rewrite(ctx, draft, [...draft.edits, ...edits.map(withoutVersion)]);
}

export async function drop(
  ctx: Ctx,
  { id, version, at }: InputOf<typeof contract.dropFromDraft>,
): Promise<AnswerOf<typeof contract.dropFromDraft>> {
  const draft = await openedAs(ctx, id, version);
  if (draft instanceof Failure) return draft;
  return rewrite(
    ctx,
    draft,
    draft.edits.filter((_, i) => i !== at),
  );
}

export async function compare(
  ctx: Ctx,
  { id, from }: InputOf<typeof contract.compareDraft>,
): Promise<AnswerOf<typeof contract.compareDraft>> {
  const draft = await opened(ctx, id);
  if (draft instanceof Failure) return draft;
  const edits = startingFrom(draft.edits, from);
  const judged = await evaluateEdits(ctx, edits, { placesOnDates: PLACES_ON_DATES, newId: draftIds(id) });
  if (judged instanceof Failure) return judged;
  // In a draft, what is in the way is changed by an edit of its own.
  const { replaceable: _, ...preview } = await toPreview(ctx, judged);
  return { draft: toDraft(draft), edits: draft.edits.map((edit) => ({ ...edit })), ...preview };
}

export async function publish(
  ctx: Ctx,
  { id, version, from, agreed }: InputOf<typeof contract.publishDraft>,
): Promise<AnswerOf<typeof contract.publishDraft>> {
  const draft = await openedAs(ctx, id, version);
  if (draft instanceof Failure) return draft;
  await lockSchedule(ctx.em);
  const edits = startingFrom(draft.edits, from);
  const saved = await saveEdits(ctx, edits, { agreed: agreed ?? false, what: 'draft', newId: draftIds(id) });
  if (saved instanceof Failure) return saved;
  await setPublished(ctx.em, id, { at: ctx.now, accountId: draft.accountId });
  return { toMove: saved.toMove, undo: saved.undo };
}

export async function discard(
  ctx: Ctx,
  { id, version }: InputOf<typeof contract.discardDraft>,
): Promise<AnswerOf<typeof contract.discardDraft>> {
  const draft = await openedAs(ctx, id, version);
  if (draft instanceof Failure) return draft;
  await deleteDraft(ctx.em, id);
  ctx.emit({ type: 'hours-changed' });
  ctx.wrote({ subjects: [{ kind: 'schedule-draft', id }], before: { name: draft.name, edits: draft.edits } });
  const { name, edits } = draft;
  return {
    undo: await ctx.undoable({
      command: 'availability.bringBackDraft',
      input: { id, name, edits },
      label: { what: 'draft-discarded' },
    }),
  };
}

/** The inverse of throwing a draft away. */
export async function restoreDraft(
  ctx: Ctx,
  { id, name, edits }: { id: string; name: string; edits: ScheduleEdit[] },
): Promise<UndoAnswer> {
  if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
  await insertDraft(ctx.em, { id, name, edits, at: ctx.now, accountId: ctx.actor.accountId });
  ctx.emit({ type: 'hours-changed' });
  return {};
}
