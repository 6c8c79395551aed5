import type { PatientStatus } from '@zaguan/core/patients';
import { defineEntity, p } from '@mikro-orm/core';
import type { Access } from '@zaguan/core/availability';
import type { Answer } from '@zaguan/core/setup';
import { AccountEntity } from './accounts.ts';
import { ResourceEntity, SiteEntity } from './clinic.ts';
import type { Row } from './rows.ts';

/** People who are booked together. It gives nobody a right. */
export const HouseholdEntity = defineEntity({
  name: 'Household',
  tableName: 'household',
  properties: {
    id: p.uuid().primary(),
    name: p.text(),
  },
});
export type Household = Row<typeof HouseholdEntity>;

/** A patient’s record (FHIR Patient). */
export const PatientEntity = defineEntity({
  name: 'Patient',
  tableName: 'patient',
  properties: {
    id: p.uuid().primary(),
    recordNumber: p.text().unique(),
    givenName: p.text().default(''),
    familyName: p.text().default(''),
    preferredName: p.text().nullable(),
    birthDate: p.date(),
    sex: p.text().$type<'female' | 'male' | 'other' | 'unknown'>().nullable(),
    language: p.text().$type<'en' | 'es'>().default('en'),
    status: p.text().$type<PatientStatus>().default('active'),
    restricted: p.boolean().default(false),
    householdId: p.uuid().nullable(),
    fields: p.json<Record<string, Answer>>().defaultRaw(`'{}'::jsonb`),
    version: p.integer().default(1),
    street: p.text().default(''),
    city: p.text().default(''),
    /** A state's two letters in the United States. */
    region: p.text().default(''),
    postalCode: p.text().default(''),
    referralSource: p.text().default(''),
    /** For the staff; not clinical. */
    staffNotes: p.text().default(''),
    /** Shown with the next visit. */
    alert: p.text().default(''),
    /** The language an interpreter is needed for (BCP 47). */
    interpreter: p.text().nullable(),
    access: p.array<Access>().columnType('text[]').defaultRaw(`'{}'::text[]`),
    /** Each visit takes so many minutes longer. */
    extraMin: p.smallint().default(0),
    /** Who comes with them, in words. */
    companion: p.text().default(''),
    homeSiteId: p.uuid().nullable(),
    homeProviderId: p.uuid().nullable(),
    deceasedOn: p.date().nullable(),
    restrictedBecause: p.text().default(''),
    createdBy: p.uuid().nullable(),
    /** The words of the names are written for the search; the database takes it back when a name changes. */
    isFindable: p.boolean().default(false),
    createdAt: p.datetime(),
    household: () => p.manyToOne(HouseholdEntity).joinColumn('household_id').persist(false).nullable(),
    homeSite: () => p.manyToOne(SiteEntity).joinColumn('home_site_id').persist(false).nullable(),
    homeProvider: () => p.manyToOne(ResourceEntity).joinColumn('home_provider_id').persist(false).nullable(),
    createdByAccount: () => p.manyToOne(AccountEntity).joinColumn('created_by').persist(false).nullable(),
  },
});
export type Patient = Row<typeof PatientEntity>;

/** A name that a patient had before; a part that did not change is empty. */
export const FormerNameEntity = defineEntity({
  name: 'FormerName',
  tableName: 'patient_former_name',
  properties: {
    id: p.uuid().primary(),
    patientId: p.uuid(),
    givenName: p.text().default(''),
    familyName: p.text().default(''),
    endedAt: p.datetime(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).deleteRule('cascade').nullable(),
  },
});
export type FormerName = Row<typeof FormerNameEntity>;

/** A word of a patient's names, folded for the search. */
export const PatientWordEntity = defineEntity({
  name: 'PatientWord',
  tableName: 'patient_word',
  properties: {
    word: p.text().primary(),
    patientId: p.uuid().primary(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).deleteRule('cascade').nullable(),
  },
});
export type PatientWord = Row<typeof PatientWordEntity>;

/** Every word that is or was in a name. */
export const NameWordEntity = defineEntity({
  name: 'NameWord',
  tableName: 'name_word',
  properties: { word: p.text().primary() },
});

/** A word with one of its letters left out, or whole: two words one slip apart have a gap in common. */
export const NameWordGapEntity = defineEntity({
  name: 'NameWordGap',
  tableName: 'name_word_gap',
  properties: {
    gap: p.text().primary(),
    word: p.text().primary(),
    nameWord: () => p.manyToOne(NameWordEntity).joinColumn('word').persist(false).deleteRule('cascade').nullable(),
  },
});

/** A number or address, whoever shares it (FHIR ContactPoint). */
export const ContactPointEntity = defineEntity({
  name: 'ContactPoint',
  tableName: 'contact_point',
  properties: {
    id: p.uuid().primary(),
    kind: p.text().$type<'phone' | 'email'>(),
    value: p.text(),
  },
  uniques: [{ properties: ['kind', 'value'] }],
});
export type ContactPoint = Row<typeof ContactPointEntity>;

/** How a patient is reached; the lowest rank first. */
export const PatientContactEntity = defineEntity({
  name: 'PatientContact',
  tableName: 'patient_contact',
  properties: {
    patientId: p.uuid().primary(),
    contactPointId: p.uuid().primary(),
    use: p.text().default('mobile'),
    rank: p.smallint().default(1),
    contactPoint: () => p.manyToOne(ContactPointEntity).joinColumn('contact_point_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
  },
});
export type PatientContact = Row<typeof PatientContactEntity>;

/** What was proved, agreed to and revoked for a number or address. Rows are only added. */
export const ContactLedgerEntity = defineEntity({
  name: 'ContactLedger',
  tableName: 'contact_ledger',
  properties: {
    id: p.uuid().primary(),
    contactPointId: p.uuid(),
    patientId: p.uuid().nullable(),
    event: p.text().$type<'verified' | 'consented' | 'revoked' | 'wrong-number'>(),
    purpose: p.text(),
    wording: p.text().nullable(),
    wordingVersion: p.text().nullable(),
    how: p.text(),
    at: p.datetime(),
    contactPoint: () => p.manyToOne(ContactPointEntity).joinColumn('contact_point_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
  },
});
export type ContactLedger = Row<typeof ContactLedgerEntity>;

/** Who may act for a patient, from when to when (FHIR RelatedPerson). */
export const RelationshipEntity = defineEntity({
  name: 'Relationship',
  tableName: 'relationship',
  properties: {
    id: p.uuid().primary(),
    patientId: p.uuid(),
    relatedPatientId: p.uuid().nullable(),
    relatedName: p.text().nullable(),
    kind: p.text(),
    mayBook: p.boolean().default(false),
    maySign: p.boolean().default(false),
    mayReceive: p.boolean().default(false),
    maySee: p.boolean().default(false),
    fromDate: p.date(),
    untilDate: p.date().nullable(),
    limits: p.text().default(''),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
    relatedPatient: () => p.manyToOne(PatientEntity).joinColumn('related_patient_id').persist(false).nullable(),
  },
});
export type Relationship = Row<typeof RelationshipEntity>;

/** A coded condition, for registers, not for charting (FHIR Condition, in short). */
export const PatientCodeEntity = defineEntity({
  name: 'PatientCode',
  tableName: 'patient_code',
  properties: {
    id: p.uuid().primary(),
    patientId: p.uuid(),
    system: p.text(),
    code: p.text(),
    words: p.text().default(''),
    addedAt: p.datetime(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).deleteRule('cascade').nullable(),
  },
  uniques: [{ properties: ['patientId', 'system', 'code'] }],
});
export type PatientCode = Row<typeof PatientCodeEntity>;

/** Somebody opened a restricted record with a reason; a manager is to see it. Rows are only added. */
export const RestrictedOpeningEntity = defineEntity({
  name: 'RestrictedOpening',
  tableName: 'restricted_opening',
  properties: {
    id: p.uuid().primary(),
    patientId: p.uuid(),
    accountId: p.uuid(),
    reason: p.text(),
    at: p.datetime(),
    until: p.datetime(),
    seenAt: p.datetime().nullable(),
    seenBy: p.uuid().nullable(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
    patient: () => p.manyToOne(PatientEntity).joinColumn('patient_id').persist(false).nullable(),
    seenByAccount: () => p.manyToOne(AccountEntity).joinColumn('seen_by').persist(false).nullable(),
  },
});
export type RestrictedOpening = Row<typeof RestrictedOpeningEntity>;

/** A saved search of the Patients page, for the account that saved it. */
export const PatientListEntity = defineEntity({
  name: 'PatientList',
  tableName: 'patient_list',
  properties: {
    id: p.uuid().primary(),
    accountId: p.uuid(),
    name: p.text(),
    query: p.json<Record<string, unknown>>(),
    createdAt: p.datetime(),
    account: () => p.manyToOne(AccountEntity).joinColumn('account_id').persist(false).nullable(),
  },
  uniques: [{ properties: ['accountId', 'name'] }],
});
export type PatientList = Row<typeof PatientListEntity>;
