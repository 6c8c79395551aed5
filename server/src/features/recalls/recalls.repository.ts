import { LockMode, type SqlEntityManager } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertIfNew, insertRow, insertRows, putRows } from '../../platform/db/write.ts';
import {
  CustomFieldEntity,
  RecallStaleEntity,
  PatientEntity,
  type RecallChoice,
  RecallChoiceEntity,
  RecallLookEntity,
  RecallPlanEntity,
  RecallRebuildEntity,
  RecallStateEntity,
  type RecallStateRow,
  RegisterEntity,
  type RegisterMember,
  RegisterMemberEntity,
  SiteEntity,
  VisitTypeEntity,
} from '../../schema/index.ts';

const FOR_UPDATE = { lockMode: LockMode.PESSIMISTIC_WRITE } as const;

/** Plans that people are listed by, in their order. */
export function plansOn(em: SqlEntityManager) {
  return findRows(
    em,
    RecallPlanEntity,
    { isOn: true, active: true },
    { orderBy: [{ sortOrder: 'asc' }, { name: 'asc' }, { id: 'asc' }] },
  );
}

export const patientRow = (em: SqlEntityManager, id: string) =>
  findRow(em, PatientEntity, { id }, { fields: ['id', 'givenName', 'familyName', 'restricted'] });

export const planRow = (em: SqlEntityManager, id: string) => findRow(em, RecallPlanEntity, { id, active: true });

/** Registers that keep themselves. */
export const rulesOfRegisters = (em: SqlEntityManager) =>
  findRows(em, RegisterEntity, { active: true, rule: { $ne: null } });

export async function hasRuledRegisters(em: SqlEntityManager): Promise<boolean> {
  return (await em.count(RegisterEntity, { active: true, rule: { $ne: null } })) > 0;
}

export const registerRow = (em: SqlEntityManager, id: string) => findRow(em, RegisterEntity, { id });

export function statesOf(em: SqlEntityManager, patientIds: readonly string[]): Promise<RecallStateRow[]> {
  return findRows(em, RecallStateEntity, { patientId: { $in: [...patientIds] } });
}

/** The plans by which somebody is due now, the first plan first. */
export function dueStatesOf(em: SqlEntityManager, patientId: string) {
  return findRows(
    em,
    RecallStateEntity,
    { patientId, state: 'due' },
    { populate: ['plan'], orderBy: { plan: { sortOrder: 'asc' }, planId: 'asc' } },
  );
}

export const countDue = (em: SqlEntityManager, planId: string): Promise<number> =>
  em.count(RecallStateEntity, { planId, state: 'due' });

export const putStates = (em: SqlEntityManager, rows: readonly RecallStateRow[]) =>
  putRows(em, RecallStateEntity, rows);

/** Writes for each of these people when they are to be looked at again, or that no date will change anything. */
export async function putLooks(
  em: SqlEntityManager,
  patientIds: readonly string[],
  looks: readonly { readonly patientId: string; readonly lookOn: string }[],
): Promise<void> {
  await em.nativeDelete(RecallLookEntity, { patientId: { $in: [...patientIds] } });
  await insertRows(em, RecallLookEntity, looks);
}

/** Takes away what somebody was to a plan that doesn't ask for them any more. */
export async function dropStates(
  em: SqlEntityManager,
  rows: readonly Pick<RecallStateRow, 'planId' | 'patientId'>[],
): Promise<void> {
  if (rows.length)
    await em.nativeDelete(RecallStateEntity, { $or: rows.map(({ planId, patientId }) => ({ planId, patientId })) });
}

export const openMembers = (em: SqlEntityManager, patientIds: readonly string[], registerIds: readonly string[]) =>
  findRows(em, RegisterMemberEntity, {
    patientId: { $in: [...patientIds] },
    registerId: { $in: [...registerIds] },
    untilDate: null,
  });

export const insertMembers = (em: SqlEntityManager, rows: readonly RegisterMember[]) =>
  insertRows(em, RegisterMemberEntity, rows);

/** @returns `false` where they are on it already */
export const insertMember = (em: SqlEntityManager, row: RegisterMember) => insertIfNew(em, RegisterMemberEntity, row);

export const memberForUpdate = (em: SqlEntityManager, id: string) =>
  findRow(em, RegisterMemberEntity, { id }, { ...FOR_UPDATE });

export async function endMember(
  em: SqlEntityManager,
  id: string,
  to: Pick<RegisterMember, 'untilDate' | 'endedBy'>,
): Promise<void> {
  await em.nativeUpdate(RegisterMemberEntity, { id }, to);
}

export async function deleteMember(em: SqlEntityManager, id: string): Promise<void> {
  await em.nativeDelete(RegisterMemberEntity, { id });
}

/** Who is on a register now, and who was, the latest first. */
export function membersOf(em: SqlEntityManager, registerId: string, limit: number) {
  return findRows(
    em,
    RegisterMemberEntity,
    { registerId },
    {
      populate: ['patient', 'addedByAccount', 'endedByAccount'],
      orderBy: [{ untilDate: 'desc nulls first' }, { fromDate: 'desc' }, { id: 'asc' }],
      limit,
    },
  );
}

export async function isOnRegister(
  em: SqlEntityManager,
  { registerId, patientId }: Pick<RegisterMember, 'registerId' | 'patientId'>,
): Promise<boolean> {
  return (await em.count(RegisterMemberEntity, { registerId, patientId, untilDate: null })) > 0;
}

export const membersNow = (em: SqlEntityManager, registerId: string): Promise<number> =>
  em.count(RegisterMemberEntity, { registerId, untilDate: null });

export const memberships = (em: SqlEntityManager, patientId: string) =>
  findRows(
    em,
    RegisterMemberEntity,
    { patientId },
    { populate: ['register'], orderBy: [{ fromDate: 'desc' }, { id: 'asc' }] },
  );

export const insertChoice = (em: SqlEntityManager, row: Omit<RecallChoice, 'version' | 'endedAt'>): Promise<void> =>
  insertRow(em, RecallChoiceEntity, row);

export const choiceForUpdate = (em: SqlEntityManager, id: string) =>
  findRow(em, RecallChoiceEntity, { id }, { ...FOR_UPDATE });

/** @returns the version that it has now */
export async function endChoice(
  em: SqlEntityManager,
  { id, version }: Pick<RecallChoice, 'id' | 'version'>,
  endedAt: Date | null,
): Promise<number> {
  await em.nativeUpdate(RecallChoiceEntity, { id }, { endedAt, version: version + 1 });
  return version + 1;
}

export const openChoices = (em: SqlEntityManager, patientId: string) =>
  findRows(
    em,
    RecallChoiceEntity,
    { patientId, endedAt: null },
    { populate: ['account'], orderBy: [{ at: 'desc' }, { id: 'asc' }] },
  );

const THE_ONE = 1;

/** Everybody is to be looked at again, from the first one on. */
export const askRebuild = (em: SqlEntityManager) =>
  putRows(em, RecallRebuildEntity, [{ id: THE_ONE, afterPatientId: null }]);

/** Whoever was noted before everybody is looked at is among them. */
export async function forgetStale(em: SqlEntityManager): Promise<void> {
  await em.nativeDelete(RecallStaleEntity, {});
}

export const rebuildForUpdate = (em: SqlEntityManager) =>
  findRow(em, RecallRebuildEntity, { id: THE_ONE }, { ...FOR_UPDATE });

export const rebuildNow = (em: SqlEntityManager) => findRow(em, RecallRebuildEntity, { id: THE_ONE });

/** @param after the last one looked at; `null`: there are no more */
export async function noteRebuild(em: SqlEntityManager, after: string | null): Promise<void> {
  if (after === null) await em.nativeDelete(RecallRebuildEntity, { id: THE_ONE });
  else await em.nativeUpdate(RecallRebuildEntity, { id: THE_ONE }, { afterPatientId: after });
}

/** Patients in the order of their ids, from one on. */
export async function patientsAfter(em: SqlEntityManager, after: string | null, limit: number): Promise<string[]> {
  const where = after === null ? {} : { id: { $gt: after } };
  return (await findRows(em, PatientEntity, where, { fields: ['id'], orderBy: { id: 'asc' }, limit })).map(
    ({ id }) => id,
  );
}

export const patientsLeft = (em: SqlEntityManager, after: string | null): Promise<number> =>
  em.count(PatientEntity, after === null ? {} : { id: { $gt: after } });

const NAMES = {
  type: (em: SqlEntityManager, ids: string[]) =>
    findRows(em, VisitTypeEntity, { id: { $in: ids }, active: true }, { fields: ['id'] }),
  site: (em: SqlEntityManager, ids: string[]) =>
    findRows(em, SiteEntity, { id: { $in: ids }, active: true }, { fields: ['id'] }),
  register: (em: SqlEntityManager, ids: string[]) =>
    findRows(em, RegisterEntity, { id: { $in: ids }, active: true }, { fields: ['id'] }),
  field: (em: SqlEntityManager, ids: string[]) =>
    findRows(em, CustomFieldEntity, { id: { $in: ids }, active: true, of: 'patient' }, { fields: ['id'] }),
};

/** Which of these ids name something that stands. */
export async function namesKnown(
  em: SqlEntityManager,
  what: keyof typeof NAMES,
  ids: readonly string[],
): Promise<ReadonlySet<string>> {
  return new Set((await NAMES[what](em, [...ids])).map(({ id }) => id));
}
