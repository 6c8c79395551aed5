import type { ErrorsOf } from '@zaguan/contracts';
import type { undo } from '@zaguan/contracts/undo';
import type { SqlEntityManager } from '@mikro-orm/postgresql';
import { type UndoEntry, UndoEntryEntity } from '../../schema/index.ts';
import { findRow, findRows } from '../db/read.ts';
import { insertRow } from '../db/write.ts';
import type { Ctx, Inverse } from '../endpoint/context.ts';
import type { Failure } from '../endpoint/failure.ts';
import type { Action } from '../endpoint/types.ts';

/** How long an act can be taken back. */
const UNDO_HOURS = 24;

/** What an inverse answers: nothing of use, or a refusal that the undo's contract lists. */
export type UndoAnswer = object | Failure<ErrorsOf<typeof undo>>;

/**
 * A command that may stand as an inverse; it runs through all rules like any other. It names the action that whoever
 * undoes needs a right to, at the moment of undoing: the role may have changed since.
 */
export interface UndoCommand {
  readonly needs: Action | ((input: never) => Action);
  readonly run: (ctx: Ctx, input: never) => Promise<UndoAnswer>;
}

/** Joins a command with the action it performs. */
export function undoWith<In>(
  needs: Action | ((input: In) => Action),
  run: (ctx: Ctx, input: In) => Promise<UndoAnswer>,
): UndoCommand {
  return { needs: needs as UndoCommand['needs'], run: run as UndoCommand['run'] };
}

export type UndoCommands = Readonly<Record<string, UndoCommand>>;

/** Keeps an inverse for the account that acted. */
export async function keepInverse(
  em: SqlEntityManager,
  accountId: string,
  id: string,
  now: Date,
  inverse: Inverse,
): Promise<void> {
  await insertRow(em, UndoEntryEntity, {
    id,
    accountId,
    command: inverse.command,
    input: { ...inverse.input },
    label: { ...inverse.label },
    createdAt: now,
    expiresAt: new Date(now.getTime() + UNDO_HOURS * 3_600_000),
  });
}

/** What this account may still take back by one command, newest first. */
export async function openInverses(
  em: SqlEntityManager,
  accountId: string,
  command: string,
  now: Date,
): Promise<{ id: string; label: Record<string, string>; createdAt: Date }[]> {
  return findRows(
    em,
    UndoEntryEntity,
    { accountId, command, undoneAt: null, expiresAt: { $gt: now } },
    { fields: ['id', 'label', 'createdAt'], orderBy: { createdAt: 'desc' } },
  );
}

/** All that this account may still take back, newest first. */
export function allInverses(
  em: SqlEntityManager,
  accountId: string,
  now: Date,
  most: number,
): Promise<Pick<UndoEntry, 'id' | 'label' | 'input' | 'createdAt'>[]> {
  return findRows(
    em,
    UndoEntryEntity,
    { accountId, undoneAt: null, expiresAt: { $gt: now } },
    { fields: ['id', 'label', 'input', 'createdAt'], orderBy: { createdAt: 'desc', id: 'desc' }, limit: most },
  );
}

/** Claims an inverse of this account so that it runs once; `null` if it is gone, used, too old or someone else's. */
export async function claimInverse(
  em: SqlEntityManager,
  accountId: string,
  id: string,
  now: Date,
): Promise<{ command: string; input: Record<string, unknown> } | null> {
  const claimed = await em.nativeUpdate(
    UndoEntryEntity,
    { id, accountId, undoneAt: null, expiresAt: { $gt: now } },
    { undoneAt: now },
  );
  return claimed ? findRow(em, UndoEntryEntity, { id }, { fields: ['command', 'input'] }) : null;
}
