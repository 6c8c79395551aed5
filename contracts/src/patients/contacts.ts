import { z } from 'zod';
import { contact } from '../booking/person.ts';
import { defineEndpoint } from '../endpoint.ts';
import { undoable } from '../wire.ts';

/** What a number or address is for (FHIR ContactPoint.use). */
export const CONTACT_USES = ['mobile', 'home', 'work'] as const;

/** What the desk may note about a number or address. It holds for whoever shares it. */
export const CONTACT_EVENTS = ['verified', 'consented', 'revoked', 'wrong-number'] as const;

const access = { kind: 'role', action: 'patients.edit' } as const;
const ofPatient = z.strictObject({ id: z.uuid() });
const one = z.strictObject({ id: z.uuid(), contactId: z.uuid() });
const output = z.strictObject({ undo: undoable });

export const addContact = defineEndpoint({
  name: 'patients.addContact',
  method: 'post',
  path: '/patients/:id/contacts',
  summary: 'Add a phone number or e-mail address to a patient, first or last in the order.',
  access,
  params: ofPatient,
  body: z.strictObject({ contact, use: z.enum(CONTACT_USES), first: z.boolean() }),
  output,
  errors: ['NotFound', 'NotAllowed', 'InvalidInput'],
});

export const orderContacts = defineEndpoint({
  name: 'patients.orderContacts',
  method: 'post',
  path: '/patients/:id/contacts/order',
  summary: 'Put a patient’s numbers and addresses in order; the first is tried first.',
  access,
  params: ofPatient,
  body: z.strictObject({ contactIds: z.array(z.uuid()).min(1).max(20) }),
  output,
  errors: ['NotFound', 'NotAllowed', 'ChangedMeanwhile'],
});

export const removeContact = defineEndpoint({
  name: 'patients.removeContact',
  method: 'post',
  path: '/patients/:id/contacts/:contactId/remove',
  summary: 'Take a number or address off a patient’s record. What was agreed to for it stays in its ledger.',
  access,
  params: one,
  output,
  errors: ['NotFound', 'NotAllowed'],
});

export const noteContact = defineEndpoint({
  name: 'patients.noteContact',
  method: 'post',
  path: '/patients/:id/contacts/:contactId/note',
  summary:
    'Note that a number or address was verified, is a wrong number, or that messages to it are agreed to or no longer wanted. Opting out and a wrong number hold for everyone who shares it, at once.',
  access,
  params: one,
  body: z.strictObject({ event: z.enum(CONTACT_EVENTS) }),
  output,
  errors: ['NotFound', 'NotAllowed'],
});
