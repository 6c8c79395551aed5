import type { InputOf } from '@zaguan/contracts';
import type {
  changeNote as changeContract,
  DayNote as Shown,
  removeNote as removeContract,
  writeNote as writeContract,
} from '@zaguan/contracts/daybook';
import type { LocalDate } from '@zaguan/core/time';
import { coversSite, type Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { DayNote } from '../../schema/index.ts';
import { siteRows } from '../clinic/index.ts';
import { insertNote, noteForUpdate, notesOf, updateNote } from './daybook.repository.ts';
import { laneRows } from './daybook.sql.ts';

/** What stands on days, by site, lane (`null`: the site itself) and date. */
export async function shownNotes(
  ctx: Ctx,
  dates: readonly LocalDate[],
): Promise<(siteId: string, resourceId: string | null, date: LocalDate) => Shown[]> {
  const rows = await notesOf(ctx.em, dates);
  return (siteId, resourceId, date) =>
    rows
      .filter((row) => row.siteId === siteId && row.resourceId === resourceId && row.siteDate === date)
      .map(({ id, text, fromMinute, toMinute, version, writtenByAccount }) => ({
        ...{ id, text, fromMinute, toMinute, version },
        by: writtenByAccount.name,
      }));
}

function noted(ctx: Ctx, { id, siteId, siteDate: date }: Pick<DayNote, 'id' | 'siteId' | 'siteDate'>, after: object) {
  ctx.emit({ type: 'visit-changed', siteId, date });
  ctx.wrote({ subjects: [{ kind: 'day-note', id }], after: { ...after } });
}

const writerOf = (ctx: Ctx) => (ctx.actor.kind === 'staff' ? ctx.actor.accountId : null);

export async function writeNote(
  ctx: Ctx,
  { siteId, resourceId, date, text, fromMinute, toMinute }: InputOf<typeof writeContract>,
): Promise<AnswerOf<typeof writeContract>> {
  const writtenBy = writerOf(ctx);
  if (writtenBy === null || !coversSite(ctx, 'daybook.annotate', siteId)) return ctx.fail('NotAllowed');
  const isThere =
    resourceId === null
      ? (await siteRows(ctx.em)).some(({ id }) => id === siteId)
      : (await laneRows(ctx.em)).some((row) => row.siteId === siteId && row.resourceId === resourceId);
  if (!isThere) return ctx.fail('NotFound');
  const id = ctx.newId();
  const said = { text, fromMinute, toMinute };
  const row = { id, siteId, resourceId, siteDate: date, ...said, writtenBy, writtenAt: ctx.now };
  await insertNote(ctx.em, row);
  noted(ctx, row, said);
  const undo = await ctx.undoable({
    command: 'daybook.removeNote',
    input: { id, version: 1 },
    label: { what: 'note' },
  });
  return { id, undo };
}

/** A note for the caller to change, locked; a refusal if it is another site's, or somebody was quicker. */
async function openNote(
  ctx: Ctx,
  id: string,
  version: number,
): Promise<DayNote | Failure<'NotFound' | 'NotAllowed' | 'ChangedMeanwhile'>> {
  const row = await noteForUpdate(ctx.em, id);
  if (!row) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'daybook.annotate', row.siteId)) return ctx.fail('NotAllowed');
  return row.version === version ? row : ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
}

export async function changeNote(
  ctx: Ctx,
  { id, version, text, fromMinute, toMinute }: InputOf<typeof changeContract>,
): Promise<AnswerOf<typeof changeContract>> {
  const row = await openNote(ctx, id, version);
  if (row instanceof Failure) return row;
  if (row.removedAt !== null) return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  const said = { text, fromMinute, toMinute };
  const by = { writtenBy: writerOf(ctx) ?? row.writtenBy, writtenAt: ctx.now };
  const next = await updateNote(ctx.em, row, { ...said, ...by });
  noted(ctx, row, said);
  const before = { text: row.text, fromMinute: row.fromMinute, toMinute: row.toMinute };
  const input = { id, version: next, ...before };
  return { version: next, undo: await ctx.undoable({ command: 'daybook.changeNote', input, label: { what: 'note' } }) };
}

export async function removeNote(
  ctx: Ctx,
  { id, version }: InputOf<typeof removeContract>,
): Promise<AnswerOf<typeof removeContract>> {
  const row = await openNote(ctx, id, version);
  if (row instanceof Failure) return row;
  if (row.removedAt !== null) return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  const next = await updateNote(ctx.em, row, { removedAt: ctx.now });
  noted(ctx, row, { removed: true });
  const input = { id, version: next };
  return { undo: await ctx.undoable({ command: 'daybook.restoreNote', input, label: { what: 'note-off' } }) };
}

/** Inverse of taking a note off: it stands there again. */
export async function restoreNote(ctx: Ctx, { id, version }: { id: string; version: number }): Promise<UndoAnswer> {
  const row = await openNote(ctx, id, version);
  if (row instanceof Failure) return row;
  await updateNote(ctx.em, row, { removedAt: null });
  noted(ctx, row, { removed: false });
  return {};
}
