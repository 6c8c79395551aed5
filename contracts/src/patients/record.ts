import { ACCESS } from '@zaguan/core/availability';
import { SIGNERS } from '@zaguan/core/intake';
import { PATIENT_STATUSES, RIGHTS, TRAIL_FIELDS } from '@zaguan/core/patients';
import { MESSAGE_KINDS, MESSAGE_STATUSES, REMINDER_STEPS } from '@zaguan/core/reminders';
import { FIELD_KINDS } from '@zaguan/core/setup';
import { APPOINTMENT_STATUSES, ORIGINS } from '@zaguan/core/visits';
import { z } from 'zod';
import { defineEndpoint } from '../endpoint.ts';
import { answerValue, words } from '../intake/form.ts';
import { instant, localDate } from '../wire.ts';
import { CONTACT_EVENTS } from './contacts.ts';
import { SEXES } from './edit.ts';

const visit = z.strictObject({
  id: z.string(),
  date: localDate,
  start: instant,
  timeZone: z.string(),
  siteName: z.string(),
  visitType: z.string(),
  provider: z.string().nullable(),
  status: z.enum(APPOINTMENT_STATUSES),
  origin: z.enum(ORIGINS),
  reason: z.string(),
  upcoming: z.boolean(),
});

const changed = z.union([z.string(), z.number(), z.boolean()]).nullable();

/** A number or address of a patient, with what its ledger says: that holds for whoever shares it. */
const contactOfPatient = z.strictObject({
  id: z.string(),
  kind: z.enum(['phone', 'email']),
  use: z.string(),
  value: z.string(),
  /** Automated messages may not go there. */
  optedOut: z.boolean(),
  isWrong: z.boolean(),
  verifiedAt: instant.nullable(),
  /** How many other patients have it too. */
  sharedBy: z.number(),
  ledger: z.array(
    z.strictObject({
      event: z.enum(CONTACT_EVENTS),
      how: z.string(),
      at: instant,
      /** What was agreed to, in the words that were read. */
      wording: z.string().nullable(),
    }),
  ),
});

/** Somebody of the same household. */
const member = z.strictObject({
  /** `null` where the caller may not open the record. */
  id: z.string().nullable(),
  name: z.string(),
  age: z.number().nullable(),
  status: z.enum(PATIENT_STATUSES),
  nextVisit: z.strictObject({ id: z.string(), date: localDate }).nullable(),
  /** When they were here last. */
  lastVisit: localDate.nullable(),
});

const record = z.strictObject({
  id: z.string(),
  recordNumber: z.string(),
  name: z.string(),
  givenName: z.string(),
  familyName: z.string(),
  preferredName: z.string().nullable(),
  formerNames: z.array(z.strictObject({ name: z.string(), until: instant })),
  birthDate: localDate,
  age: z.number(),
  sex: z.enum(SEXES).nullable(),
  street: z.string(),
  city: z.string(),
  region: z.string(),
  postalCode: z.string(),
  language: z.enum(['en', 'es']),
  /** The language an interpreter is needed for (BCP 47). */
  interpreter: z.string().nullable(),
  access: z.array(z.enum(ACCESS)),
  extraMin: z.number(),
  companion: z.string(),
  homeSiteId: z.string().nullable(),
  homeSiteName: z.string().nullable(),
  homeProviderId: z.string().nullable(),
  homeProviderName: z.string().nullable(),
  referralSource: z.string(),
  staffNotes: z.string(),
  alert: z.string(),
  codes: z.array(z.strictObject({ code: z.string(), words: z.string() })),
  status: z.enum(PATIENT_STATUSES),
  deceasedOn: localDate.nullable(),
  restricted: z.boolean(),
  restrictedBecause: z.string(),
  version: z.number(),
  mayEdit: z.boolean(),
  mayRestrict: z.boolean(),
  household: z.strictObject({ name: z.string(), members: z.array(member) }).nullable(),
  /** The clinic's own fields, with what stands there. */
  fields: z.array(
    z.strictObject({
      id: z.string(),
      kind: z.enum(FIELD_KINDS),
      label: z.string(),
      required: z.boolean(),
      choices: z.array(z.string()),
      value: z.union([z.string(), z.number(), z.boolean(), z.null()]),
    }),
  ),
  /** Who may act for this patient, and what they may do today. */
  relationships: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      relatedPatientId: z.string().nullable(),
      kind: z.string(),
      rights: z.array(z.enum(RIGHTS)),
      rightsToday: z.array(z.enum(RIGHTS)),
      fromDate: localDate,
      untilDate: localDate.nullable(),
      /** What custody or a court limits, in words, for whoever stands before them. */
      limits: z.string(),
    }),
  ),
  contacts: z.array(contactOfPatient),
  visits: z.array(visit),
  /** What was or will be sent, newest first. */
  messages: z.array(
    z.strictObject({
      id: z.string(),
      kind: z.enum(MESSAGE_KINDS),
      step: z.enum(REMINDER_STEPS).nullable(),
      contact: z.string().nullable(),
      at: instant,
      status: z.enum(MESSAGE_STATUSES),
      visitDate: localDate,
    }),
  ),
  /** Forms and consents of all visits, newest first. */
  forms: z.array(
    z.strictObject({
      id: z.string(),
      /** As the staff call it. */
      name: z.string(),
      visitDate: localDate,
      at: instant,
      completed: z.boolean(),
      answers: z.array(z.strictObject({ question: words, value: z.array(z.union([words, answerValue])) })),
    }),
  ),
  consents: z.array(
    z.strictObject({
      id: z.string(),
      /** As the staff call it. */
      name: z.string(),
      version: z.number(),
      visitDate: localDate,
      at: instant,
      signer: z.enum(SIGNERS),
      signerName: z.string(),
      language: z.enum(['en', 'es']),
    }),
  ),
  /** Newest first; what was read and what was changed, by whom. */
  trail: z.array(
    z.strictObject({
      at: instant,
      kind: z.enum(['read', 'write']),
      command: z.string(),
      actor: z.enum(['staff', 'patient', 'system']),
      by: z.string().nullable(),
      /** Before and after, what can be read of it; an id is given as its name, a field of the clinic's own by its label. */
      changes: z.array(
        z.strictObject({
          field: z.enum(TRAIL_FIELDS),
          label: z.string().nullable(),
          before: changed,
          after: changed,
        }),
      ),
    }),
  ),
});
export type PatientRecord = z.output<typeof record>;

export const patientRecord = defineEndpoint({
  name: 'patients.record',
  method: 'get',
  path: '/patients/:id',
  summary: 'One patient: details, visits, messages, forms, consents, and who saw and changed what.',
  access: { kind: 'role', action: 'patients.view' },
  params: z.strictObject({ id: z.uuid() }),
  output: z.strictObject({ record }),
  errors: ['NotFound', 'NotAllowed'],
  readsPatients: true,
});
