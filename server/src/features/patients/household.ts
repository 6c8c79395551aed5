import type { InputOf } from '@zaguan/contracts';
import {
  type joinHousehold as joinContract,
  type leaveHousehold as leaveContract,
  MAX_HOUSEHOLD,
} from '@zaguan/contracts/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { addContactTo, LAST_RANK } from '../people/index.ts';
import { contactsOf, deleteContact } from './contacts.repository.ts';
import { differenceOf, editable } from './editable.ts';
import {
  householdMembers,
  insertHousehold,
  type PatientPatch,
  type PatientRow,
  setPatient,
} from './patients.repository.ts';

const addressOf = ({ street, city, region, postalCode }: PatientRow) => ({ street, city, region, postalCode });

/** Puts a patient into another one's household; where there is none yet, both are the first of a new one. It gives no rights. */
export async function joinHousehold(
  ctx: Ctx,
  { id, withPatientId, copyAddress, copyContacts }: InputOf<typeof joinContract>,
): Promise<AnswerOf<typeof joinContract>> {
  if (id === withPatientId) return refuse(ctx, 'oneself');
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  const other = await editable(ctx, withPatientId);
  if (other instanceof Failure) return other;
  if (other.householdId && (await householdMembers(ctx.em, other.householdId)).length >= MAX_HOUSEHOLD)
    return refuse(ctx, 'too-many');
  const householdId = other.householdId ?? (await newHousehold(ctx, other));
  if (householdId === null) return ctx.fail('ChangedMeanwhile');
  const copied = copyContacts ? await copyContactsOf(ctx, other.id, id) : [];
  const patch = { householdId, ...(copyAddress && addressOf(other)) };
  const before = await write(ctx, row, patch);
  if (before instanceof Failure) return before;
  const undo = await ctx.undoable({
    command: 'patients.putHousehold',
    input: { id, version: row.version + 1, patch: before, copied },
    label: { what: 'household' },
  });
  return { undo };
}

const refuse = (ctx: Ctx, code: string) => ctx.fail('InvalidInput', { issues: [{ path: 'withPatientId', code }] });

/** Named after whoever is its first; `null` if somebody else has just changed their record. */
async function newHousehold(ctx: Ctx, first: PatientRow): Promise<string | null> {
  const id = ctx.newId();
  await insertHousehold(ctx.em, { id, name: first.familyName || first.givenName });
  if (!(await setPatient(ctx.em, first.id, first.version, { householdId: id }))) return null;
  ctx.wrote({
    subjects: [{ kind: 'patient', id: first.id }],
    before: { household: false },
    after: { household: true },
  });
  return id;
}

/** Numbers and addresses that a patient did not have yet, after their own. */
async function copyContactsOf(ctx: Ctx, from: string, to: string): Promise<string[]> {
  const copied: string[] = [];
  for (const { contactPointId, use } of await contactsOf(ctx.em, from))
    if (await addContactTo(ctx.em, to, contactPointId, { use, rank: LAST_RANK })) copied.push(contactPointId);
  return copied;
}

async function write(ctx: Ctx, row: PatientRow, patch: PatientPatch) {
  const { before, after } = differenceOf(row, patch);
  const { id, version } = row;
  if (!(await setPatient(ctx.em, id, version, after))) return ctx.fail('ChangedMeanwhile', { facts: { version } });
  const named = ({ householdId, ...rest }: PatientPatch) => ({ ...rest, household: householdId !== null });
  ctx.wrote({ subjects: [{ kind: 'patient', id }], before: named(before), after: named(after) });
  return before;
}

export async function leaveHousehold(
  ctx: Ctx,
  { id }: InputOf<typeof leaveContract>,
): Promise<AnswerOf<typeof leaveContract>> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  if (!row.householdId) return ctx.fail('NotFound');
  const before = await write(ctx, row, { householdId: null });
  if (before instanceof Failure) return before;
  const undo = await ctx.undoable({
    command: 'patients.putHousehold',
    input: { id, version: row.version + 1, patch: before, copied: [] },
    label: { what: 'household' },
  });
  return { undo };
}

export async function putHousehold(
  ctx: Ctx,
  { id, version, patch, copied }: { id: string; version: number; patch: PatientPatch; copied: readonly string[] },
): Promise<UndoAnswer> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  if (row.version !== version) return ctx.fail('ChangedMeanwhile', { facts: { version: row.version } });
  for (const contactId of copied) await deleteContact(ctx.em, id, contactId);
  const before = await write(ctx, row, patch);
  return before instanceof Failure ? before : {};
}
