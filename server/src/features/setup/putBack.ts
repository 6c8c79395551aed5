import { SETUP_KINDS, type SetupKind } from '@zaguan/contracts/setup';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { type UndoAnswer, undoWith } from '../../platform/undo/undo.ts';
import type { Action } from '../../platform/endpoint/types.ts';
import { editActionOf, kindOf, readRecords } from './records.ts';
import { save, setActive } from './saving.ts';

interface Put {
  readonly kind: string;
  readonly agreed: readonly string[];
  readonly records: readonly { readonly id: string; readonly version: number; readonly doc: unknown }[];
}

const isKind = (kind: string): kind is SetupKind => SETUP_KINDS.some((known) => known === kind);

/** What saving records of a kind needs a right to: accounts need more than the rest. */
function actionOf(kind: string): Action {
  return isKind(kind) ? editActionOf(kind) : 'accounts.manage';
}

/** The inverse of saving: the documents as they were, through the same rules; what was new is archived. */
async function put(ctx: Ctx, { kind, agreed, records }: Put): Promise<UndoAnswer> {
  if (!isKind(kind)) return ctx.fail('NotFound');
  const old = records.filter(({ doc }) => doc !== null);
  if (old.length) {
    const result = await save(ctx, kind, kindOf(kind), {
      records: old,
      // A visit that no longer fits after an undo goes to the list; it is not refused for that.
      agreed: [...agreed, 'visits-to-move'],
    });
    if (result instanceof Failure) return result;
  }
  const made = records.filter(({ doc }) => doc === null);
  const present = await readRecords(
    ctx.em,
    kind,
    made.map(({ id }) => id),
  );
  const other = present.find((record) => record.version !== made.find(({ id }) => id === record.id)?.version);
  if (other) return ctx.fail('ChangedMeanwhile', { facts: { version: other.version, by: other.changedBy } });
  return made.length ? setActive(ctx, kind, kindOf(kind), { ids: made.map(({ id }) => id), active: false }) : {};
}

async function activate(
  ctx: Ctx,
  { kind, ids, active }: { kind: string; ids: string[]; active: boolean },
): Promise<UndoAnswer> {
  if (!isKind(kind)) return ctx.fail('NotFound');
  return ids.length ? setActive(ctx, kind, kindOf(kind), { ids, active }) : {};
}

/** Several acts' inverses as one. */
async function putAll(ctx: Ctx, { puts }: { puts: readonly Put[] }): Promise<UndoAnswer> {
  for (const each of puts) {
    const result = await put(ctx, each);
    if (result instanceof Failure) return result;
  }
  return {};
}

/** Commands that may stand as an inverse. */
export const setupCommands = {
  'setup.put': undoWith(({ kind }: Put) => actionOf(kind), put),
  'setup.setActive': undoWith(({ kind }: { kind: string }) => actionOf(kind), activate),
  'setup.putAll': undoWith('setup.edit', putAll),
};
