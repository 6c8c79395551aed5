import type { InputOf } from '@zaguan/contracts';
import type { defineRecords, SetupKind, SetupRecord } from '@zaguan/contracts/setup';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { handle, type Mounted } from '../../platform/endpoint/handler.ts';
import type { Action, SqlEntityManager } from '../../platform/endpoint/types.ts';
import { toImpact } from '../availability/index.ts';
import { dryRun } from './dryRun.ts';
import { type RecordKind, save, type SaveInput, setActive, withVersions } from './saving.ts';

type Contract = ReturnType<typeof defineRecords>;

const kinds = new Map<SetupKind, RecordKind<unknown>>();
const edits = new Map<SetupKind, Action>();

/** The endpoints of a kind, and its place among those that can be undone. */
export function recordEndpoints<D>(contract: Contract & { readonly kind: SetupKind }, rules: RecordKind<D>): Mounted[] {
  const { kind } = contract;
  kinds.set(kind, rules as RecordKind<unknown>);
  if (contract.save.access.kind !== 'role') throw new Error(`Saving ${kind} needs a right.`);
  const { action } = contract.save.access;
  edits.set(kind, action);
  return [
    handle(contract.list, async (ctx) => ({
      records: await withVersions(ctx.em, await rules.read(ctx.em, null)),
      mayEdit: ctx.scope(action) !== 'no',
    })),
    handle(contract.save, (ctx, input) => save(ctx, kind, rules, input as SaveInput<D>)),
    handle(contract.effects, async (ctx, { records }) => {
      const found = await dryRun(ctx, kind, rules, records as SaveInput<D>['records']);
      return { impact: found && (await toImpact(ctx, found)) };
    }),
    handle(contract.archive, (ctx, input: InputOf<Contract['archive']>) => setActive(ctx, kind, rules, input)),
  ];
}

/** What changing records of a kind needs a right to. */
export function editActionOf(kind: SetupKind): Action {
  const action = edits.get(kind);
  if (!action) throw new Error(`Nothing keeps the kind ${kind}.`);
  return action;
}

/** The rules of a kind, for acts that change several kinds at once. */
export function kindOf<D>(kind: SetupKind): RecordKind<D> {
  const rules = kinds.get(kind);
  if (!rules) throw new Error(`Nothing keeps the kind ${kind}.`);
  return rules as RecordKind<D>;
}

/** Saves through all rules of a kind, within another act. */
export function saveRecords<D>(ctx: Ctx, kind: SetupKind, input: SaveInput<D>) {
  return save(ctx, kind, kindOf<D>(kind), input);
}

/** Records with their versions. */
export async function readRecords<D>(
  em: SqlEntityManager,
  kind: SetupKind,
  ids: readonly string[] | null,
): Promise<SetupRecord<D>[]> {
  return withVersions(em, await kindOf<D>(kind).read(em, ids));
}
