import { isDeepStrictEqual } from 'node:util';
import type { SetupKind, SetupRecord } from '@zaguan/contracts/setup';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { beforeSetup, listVisitsToMove, type SetupImpact } from './impact.ts';
import { versionsOf } from './records.repository.ts';
import { bumpVersions, lockSetup } from './records.sql.ts';

/** A record as its tables hold it. */
export interface Stored<D> {
  readonly id: string;
  readonly active: boolean;
  readonly doc: D;
}

/** Why something can't be saved: which field (`doc.npi`), the code its words stand under, and what the words name. */
export interface Refusal {
  readonly path: string;
  readonly code: string;
  readonly facts?: Record<string, string | number | boolean | null>;
}

export interface Change<D> {
  readonly id: string;
  readonly before: Stored<D> | null;
  readonly doc: D;
}

/** What a kind of record needs beside its contract: how it is read and written, and which rules it must keep. */
export interface RecordKind<D> {
  /** All of them, or those with these ids. */
  read(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<D>[]>;
  write(em: SqlEntityManager, id: string, doc: D, before: Stored<D> | null): Promise<void>;
  setActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void>;
  /** Rules that ask about other records or about what is booked; what one record alone must keep stands in its schema. */
  check?(ctx: Ctx, change: Change<D>): Promise<Refusal[]>;
  /** What must be agreed to before: codes with facts. */
  consequences?(ctx: Ctx, change: Change<D>): Promise<Refusal[]>;
  /** Why a record can't be archived, or brought back. */
  checkActive?(ctx: Ctx, record: Stored<D>, active: boolean): Promise<Refusal[]>;
  /** After writing, in the same transaction. */
  after?(ctx: Ctx, change: Change<D>, agreed: readonly string[]): Promise<void>;
}

export interface SaveInput<D> {
  readonly records: readonly { readonly id: string; readonly version: number; readonly doc: D }[];
  readonly agreed: readonly string[];
}

export async function withVersions<D>(em: SqlEntityManager, stored: readonly Stored<D>[]): Promise<SetupRecord<D>[]> {
  const versions = await versionsOf(
    em,
    stored.map(({ id }) => id),
  );
  return stored.map((record) => {
    const known = versions.get(record.id);
    return {
      ...record,
      version: known?.version ?? 1,
      changedAt: known ? known.changedAt.toISOString() : null,
      changedBy: known?.changedBy ?? null,
    };
  });
}

function refused(refusals: readonly (Refusal & { index?: number })[]): Failure<'SetupRefused'> {
  return new Failure('SetupRefused', {
    issues: refusals.map(({ path, code, index }) => ({
      path: index === undefined ? path : `records.${index}.${path}`,
      code,
    })),
    facts: Object.assign({}, ...refusals.map(({ facts }) => facts ?? {}).reverse()),
  });
}

interface Written<D> {
  readonly changes: readonly Change<D>[];
  /** Asks what the change does; `null` where no search depends on it. */
  readonly computeImpact: ((asked: { visitsOnly: boolean }) => Promise<SetupImpact>) | null;
}

/** Writes all that differs, if every rule is kept and every consequence was agreed to. */
export async function write<D>(
  ctx: Ctx,
  kind: SetupKind,
  rules: RecordKind<D>,
  input: SaveInput<D>,
): Promise<Written<D> | Failure<'ChangedMeanwhile' | 'SetupRefused' | 'AgreementNeeded'>> {
  await lockSetup(ctx.em);
  const ids = input.records.map(({ id }) => id);
  if (new Set(ids).size !== ids.length) return refused([{ path: 'records', code: 'twice' }]);
  const known = new Map(
    (await withVersions(ctx.em, await rules.read(ctx.em, ids))).map((record) => [record.id, record]),
  );
  const changes: (Change<D> & { index: number })[] = [];
  for (const [index, { id, version, doc }] of input.records.entries()) {
    const before = known.get(id) ?? null;
    if (before && isDeepStrictEqual(before.doc, doc)) continue;
    if ((before?.version ?? 0) !== version)
      return ctx.fail('ChangedMeanwhile', {
        facts: { id, version: before?.version ?? 0, by: before?.changedBy ?? null },
      });
    changes.push({ id, before, doc, index });
  }
  const computeImpact = changes.length ? await beforeSetup(ctx, kind) : null;
  const refusals: (Refusal & { index: number })[] = [];
  const open: Refusal[] = [];
  // Each is judged with those before it written: two of one call must not pass where only one of them may. A failure
  // rolls all of it back.
  for (const change of changes) {
    for (const refusal of (await rules.check?.(ctx, change)) ?? []) refusals.push({ ...refusal, index: change.index });
    for (const each of (await rules.consequences?.(ctx, change)) ?? [])
      if (!isAgreed(each.code, input.agreed)) open.push(each);
    if (refusals.length || open.length) continue;
    await rules.write(ctx.em, change.id, change.doc, change.before);
    await rules.after?.(ctx, change, input.agreed);
    ctx.wrote({
      subjects: [{ kind, id: change.id }],
      before: change.before ? { ...change.before } : null,
      after: { doc: change.doc },
    });
  }
  if (refusals.length) return refused(refusals);
  return open.length ? needsAgreement(ctx, open) : { changes, computeImpact };
}

const isAgreed = (code: string, agreed: readonly string[]) =>
  agreed.some((each) => each === code || each.startsWith(`${code}:`));

function needsAgreement(ctx: Ctx, open: readonly Omit<Refusal, 'path'>[]): Failure<'AgreementNeeded'> {
  return ctx.fail('AgreementNeeded', {
    codes: [...new Set(open.map(({ code }) => code))],
    facts: Object.assign({}, ...open.map(({ facts }) => facts ?? {})),
  });
}

/**
 * Saves all or none. The same call twice changes nothing the second time. Booked visits that no longer fit must be
 * agreed to, and go to the list of visits to move.
 */
export async function save<D>(
  ctx: Ctx,
  kind: SetupKind,
  rules: RecordKind<D>,
  input: SaveInput<D>,
): Promise<
  { records: SetupRecord<D>[]; undo: { id: string } } | Failure<'ChangedMeanwhile' | 'SetupRefused' | 'AgreementNeeded'>
> {
  const written = await write(ctx, kind, rules, input);
  if (written instanceof Failure) return written;
  const { changes, computeImpact } = written;
  if (computeImpact) {
    const { impact } = await computeImpact({ visitsOnly: true });
    if (impact.visitsToMove.length && !isAgreed(VISITS_TO_MOVE, input.agreed))
      return needsAgreement(ctx, [{ code: VISITS_TO_MOVE, facts: { visits: impact.visitsToMove.length } }]);
    await listVisitsToMove(ctx, impact);
  }
  await noteChanges(
    ctx,
    kind,
    changes.map(({ id, before }) => ({ id, first: before === null })),
  );
  const ids = input.records.map(({ id }) => id);
  const saved = await withVersions(ctx.em, await rules.read(ctx.em, ids));
  const undo = await ctx.undoable({
    command: 'setup.put',
    input: {
      kind,
      agreed: input.agreed,
      // Backwards: a name that one gave up and the next one took is given back first.
      records: changes
        .map(({ id, before }) => ({
          id,
          version: saved.find((record) => record.id === id)?.version ?? 1,
          doc: before?.doc ?? null,
        }))
        .reverse(),
    },
    label: { what: 'setup-saved', kind },
  });
  return { records: ids.flatMap((id) => saved.filter((record) => record.id === id)), undo };
}

/** The consequence that booked visits must be moved, as the caller agrees to it. */
export const VISITS_TO_MOVE = 'visits-to-move';

async function noteChanges(
  ctx: Ctx,
  kind: SetupKind,
  changed: readonly { id: string; first: boolean }[],
): Promise<void> {
  if (!changed.length) return;
  const by = ctx.actor.kind === 'staff' ? ctx.actor.accountId : null;
  await bumpVersions(ctx.em, kind, changed, { at: ctx.now, by });
  ctx.emit({ type: 'setup-changed' });
}

/** Archives, or brings back. Nothing is deleted: old visits go on naming what they were. */
export async function setActive<D>(
  ctx: Ctx,
  kind: SetupKind,
  rules: RecordKind<D>,
  { ids, active }: { ids: readonly string[]; active: boolean },
): Promise<{ undo: { id: string } } | Failure<'NotFound' | 'SetupRefused'>> {
  await lockSetup(ctx.em);
  const records = await rules.read(ctx.em, ids);
  if (records.length !== new Set(ids).size) return ctx.fail('NotFound');
  const changing = records.filter((record) => record.active !== active);
  const computeImpact = changing.length ? await beforeSetup(ctx, kind) : null;
  const refusals: Refusal[] = [];
  // One after the other, as in saving: the last manager is also the last of several archived together.
  for (const record of changing) {
    refusals.push(...((await rules.checkActive?.(ctx, record, active)) ?? []));
    if (refusals.length) continue;
    await rules.setActive(ctx.em, [record.id], active);
    ctx.wrote({ subjects: [{ kind, id: record.id }], before: { active: !active }, after: { active } });
  }
  if (refusals.length) return refused(refusals);
  if (computeImpact) {
    const { impact } = await computeImpact({ visitsOnly: true });
    // Nothing is archived that a visit stands on unnamed: whoever must be present at the site, for one.
    const visits = impact.visitsToMove.length;
    if (visits && !active) return refused([{ path: 'active', code: 'visits-stand-on-it', facts: { visits } }]);
    await listVisitsToMove(ctx, impact);
  }
  const changed = changing.map(({ id }) => id);
  await noteChanges(
    ctx,
    kind,
    changed.map((id) => ({ id, first: false })),
  );
  return {
    undo: await ctx.undoable({
      command: 'setup.setActive',
      input: { kind, ids: changed, active: !active },
      label: { what: active ? 'setup-restored' : 'setup-archived', kind },
    }),
  };
}
