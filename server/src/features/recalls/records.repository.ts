import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { RecallPlanDoc, RegisterDoc } from '@zaguan/contracts/recalls';
import { findRows } from '../../platform/db/read.ts';
import { putRows } from '../../platform/db/write.ts';
import { RecallPlanEntity, RecallStateEntity, RegisterEntity } from '../../schema/index.ts';
import type { Stored } from '../setup/index.ts';
import { askRebuild } from './recalls.repository.ts';

const byIds = (ids: readonly string[] | null) => (ids === null ? {} : { id: { $in: [...ids] } });
const IN_ORDER = { orderBy: { sortOrder: 'asc', name: 'asc', id: 'asc' } } as const;

export async function readPlans(em: SqlEntityManager, ids: readonly string[] | null): Promise<Stored<RecallPlanDoc>[]> {
  const rows = await findRows(em, RecallPlanEntity, byIds(ids), IN_ORDER);
  return rows.map(({ id, active, name, isOn, rules, sortOrder }) => ({
    id,
    active,
    // What it holds was checked when it was saved.
    doc: { name, isOn, ...rules, sortOrder } as RecallPlanDoc,
  }));
}

export async function writePlan(
  em: SqlEntityManager,
  id: string,
  { name, isOn, sortOrder, ...rules }: RecallPlanDoc,
  before: Stored<RecallPlanDoc> | null,
): Promise<void> {
  await putRows(em, RecallPlanEntity, [{ id, name, isOn, rules, sortOrder, active: before?.active ?? true }]);
}

/** An archived plan lists nobody: what people were to it goes at once, and the others look at everybody anew. */
export async function setPlansActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void> {
  await em.nativeUpdate(RecallPlanEntity, { id: { $in: [...ids] } }, { active });
  if (!active) await em.nativeDelete(RecallStateEntity, { planId: { $in: [...ids] } });
  await askRebuild(em);
}

export async function readRegisters(
  em: SqlEntityManager,
  ids: readonly string[] | null,
): Promise<Stored<RegisterDoc>[]> {
  const rows = await findRows(em, RegisterEntity, byIds(ids), IN_ORDER);
  return rows.map(({ id, active, name, note, rule, sortOrder }) => ({
    id,
    active,
    doc: { name, note, rule, sortOrder } as RegisterDoc,
  }));
}

export async function writeRegister(
  em: SqlEntityManager,
  id: string,
  { name, note, rule, sortOrder }: RegisterDoc,
  before: Stored<RegisterDoc> | null,
): Promise<void> {
  await putRows(em, RegisterEntity, [{ id, name, note, rule, sortOrder, active: before?.active ?? true }]);
}

export async function setRegistersActive(em: SqlEntityManager, ids: readonly string[], active: boolean): Promise<void> {
  await em.nativeUpdate(RegisterEntity, { id: { $in: [...ids] } }, { active });
  await askRebuild(em);
}

/** Plans that stand and go by a register. */
export async function plansThatUse(em: SqlEntityManager, registerId: string): Promise<{ name: string }[]> {
  const plans = await findRows(em, RecallPlanEntity, { active: true });
  return plans.filter(
    ({ rules: { who, when } }) =>
      who.registerIds?.includes(registerId) || (when.kind === 'on-register' && when.registerId === registerId),
  );
}
