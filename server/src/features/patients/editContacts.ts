import type { InputOf } from '@zaguan/contracts';
import type {
  addContact as addContract,
  noteContact as noteContract,
  orderContacts as orderContract,
  removeContact as removeContract,
} from '@zaguan/contracts/patients';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { endMessages, planForNewContact } from '../messages/index.ts';
import { addContactTo, LAST_RANK, putContactPoint } from '../people/index.ts';
import { editable } from './editable.ts';
import { comingVisitIds } from './patients.repository.ts';
import {
  contactsOf,
  deleteContact,
  deleteLedgerEntry,
  insertLedgerEntry,
  type PatientContactRow,
  setContactRanks,
} from './contacts.repository.ts';

/** What is written into the ledger when somebody at the desk says so: the words stand there as they were read out. */
const WORDING = {
  verified: 'The desk verified that this reaches the patient.',
  consented: 'The patient agreed to automated messages about visits, and can end them at any time.',
  revoked: 'The patient asked for no more automated messages.',
  'wrong-number': 'Somebody else has this number or address.',
} as const;

const wroteContact = (ctx: Ctx, id: string, contact: string, after: string) =>
  ctx.wrote({ subjects: [{ kind: 'patient', id }], after: { contact, contactEvent: after } });

/** How somebody is reached has changed: the reminders of what is to come go there. */
async function reachAnew(ctx: Ctx, patientId: string): Promise<void> {
  for (const visit of await comingVisitIds(ctx.em, patientId, ctx.now)) await planForNewContact(ctx, visit);
}

/** A number or address on a record, if it is there and the caller may change it. */
async function contactOf(ctx: Ctx, id: string, contactId: string) {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  const contact = (await contactsOf(ctx.em, id)).find((each) => each.contactPointId === contactId);
  return contact ?? ctx.fail('NotFound');
}

export async function addContact(
  ctx: Ctx,
  { id, contact, use, first }: InputOf<typeof addContract>,
): Promise<AnswerOf<typeof addContract>> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  const contactId = await putContactPoint(ctx.em, ctx.newId(), contact);
  const before = await contactsOf(ctx.em, id);
  if (!(await addContactTo(ctx.em, id, contactId, { use, rank: LAST_RANK })))
    return ctx.fail('InvalidInput', { issues: [{ path: 'contact', code: 'contact-there' }] });
  const ids = before.map(({ contactPointId }) => contactPointId);
  await setContactRanks(ctx.em, id, first ? [contactId, ...ids] : [...ids, contactId]);
  await reachAnew(ctx, id);
  wroteContact(ctx, id, contact, 'added');
  const undo = await ctx.undoable({
    command: 'patients.takeContactOff',
    input: { id, contactId },
    label: { what: 'contact' },
  });
  return { undo };
}

export async function orderContacts(
  ctx: Ctx,
  { id, contactIds }: InputOf<typeof orderContract>,
): Promise<AnswerOf<typeof orderContract>> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  const before = (await contactsOf(ctx.em, id)).map(({ contactPointId }) => contactPointId);
  const isSame = before.length === contactIds.length && before.every((each) => contactIds.includes(each));
  if (!isSame) return ctx.fail('ChangedMeanwhile');
  await setContactRanks(ctx.em, id, contactIds);
  await reachAnew(ctx, id);
  ctx.wrote({ subjects: [{ kind: 'patient', id }], after: { contactEvent: 'ordered' } });
  const undo = await ctx.undoable({
    command: 'patients.orderContacts',
    input: { id, contactIds: before },
    label: { what: 'contact' },
  });
  return { undo };
}

export async function removeContact(
  ctx: Ctx,
  { id, contactId }: InputOf<typeof removeContract>,
): Promise<AnswerOf<typeof removeContract>> {
  const contact = await contactOf(ctx, id, contactId);
  if (contact instanceof Failure) return contact;
  await deleteContact(ctx.em, id, contactId);
  await reachAnew(ctx, id);
  wroteContact(ctx, id, contact.contactPoint?.value ?? '', 'removed');
  const { use, rank } = contact;
  const undo = await ctx.undoable({
    command: 'patients.putContactOn',
    input: { id, contactId, use, rank },
    label: { what: 'contact' },
  });
  return { undo };
}

/** The ledger is the number's and not the person's: an opt-out and a wrong number hold for whoever shares it. */
export async function noteContact(
  ctx: Ctx,
  { id, contactId, event }: InputOf<typeof noteContract>,
): Promise<AnswerOf<typeof noteContract>> {
  const contact = await contactOf(ctx, id, contactId);
  if (contact instanceof Failure) return contact;
  const entryId = ctx.newId();
  if (event === 'revoked' || event === 'wrong-number')
    await endMessages(ctx, contactId, { id: entryId, event, wording: WORDING[event], how: 'desk' });
  else
    await insertLedgerEntry(ctx.em, {
      id: entryId,
      contactPointId: contactId,
      patientId: event === 'verified' ? id : null,
      event,
      purpose: event === 'verified' ? 'identity' : 'visit-messages',
      wording: WORDING[event],
      how: 'desk',
      at: ctx.now,
    });
  if (event !== 'verified') await reachAnew(ctx, id);
  wroteContact(ctx, id, contact.contactPoint?.value ?? '', event);
  const undo = await ctx.undoable({
    command: 'patients.forgetNote',
    input: { id, contactId, entryId },
    label: { what: 'contact-note' },
  });
  return { undo };
}

/** Inverses. What was told or withheld in between stays as it was. */
export async function takeContactOff(
  ctx: Ctx,
  { id, contactId }: { id: string; contactId: string },
): Promise<UndoAnswer> {
  const contact = await contactOf(ctx, id, contactId);
  if (contact instanceof Failure) return contact;
  await deleteContact(ctx.em, id, contactId);
  await reachAnew(ctx, id);
  wroteContact(ctx, id, contact.contactPoint?.value ?? '', 'removed');
  return {};
}

export async function putContactOn(
  ctx: Ctx,
  { id, contactId, use, rank }: { id: string; contactId: string } & Pick<PatientContactRow, 'use' | 'rank'>,
): Promise<UndoAnswer> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  await addContactTo(ctx.em, id, contactId, { use, rank });
  await reachAnew(ctx, id);
  ctx.wrote({ subjects: [{ kind: 'patient', id }], after: { contactEvent: 'added' } });
  return {};
}

export async function orderBack(
  ctx: Ctx,
  { id, contactIds }: { id: string; contactIds: readonly string[] },
): Promise<UndoAnswer> {
  const row = await editable(ctx, id);
  if (row instanceof Failure) return row;
  await setContactRanks(ctx.em, id, contactIds);
  await reachAnew(ctx, id);
  ctx.wrote({ subjects: [{ kind: 'patient', id }], after: { contactEvent: 'ordered' } });
  return {};
}

export async function forgetNote(
  ctx: Ctx,
  { id, contactId, entryId }: { id: string; contactId: string; entryId: string },
): Promise<UndoAnswer> {
  const contact = await contactOf(ctx, id, contactId);
  if (contact instanceof Failure) return contact;
  await deleteLedgerEntry(ctx.em, entryId);
  await reachAnew(ctx, id);
  wroteContact(ctx, id, contact.contactPoint?.value ?? '', 'note-undone');
  return {};
}
