import type { InputOf } from '@zaguan/contracts';
import * as contract from '@zaguan/contracts/fhir';
import { readContact } from '@zaguan/core/messages';
import { fullName, restrictedName } from '@zaguan/core/patients';
import { wordsOf } from '@zaguan/core/patientSearch';
import type { FhirPatient } from '../../exchange/fhir/patientToFhir.ts';
import { toPatient } from '../../exchange/fhir/patientToFhir.ts';
import { toRelatedPerson } from '../../exchange/fhir/relatedPersonToFhir.ts';
import { systemsOf } from '../../exchange/fhir/systems.ts';
import { type Ctx, latestDate } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { findPatients } from '../patientSearch/index.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { fhirPatients, type PatientFilter, patientIdsBy, relatedPersonRows } from './fhir.repository.ts';
import { asWire, baseOf, dateBounds, pageOf, searchset } from './searching.ts';

async function search(ctx: Ctx, input: InputOf<typeof contract.searchPatients>) {
  const base = baseOf(ctx);
  const { page, ...rest } = pageOf(await fhirPatients(ctx.em, input._id, mayOpenRestricted(ctx)), input);
  ctx.viewed(page.map(({ id }) => id));
  const resources = page.map((row) => toPatient(row, base));
  return searchset(ctx, 'Patient', input, { resources, ...rest });
}

type Wanted = InputOf<typeof contract.findPatients>;

/** A token's value, if it is of one of these systems or names none. */
function valuesOf(tokens: readonly string[] | undefined, systems: readonly string[]): string[] {
  return (tokens ?? []).flatMap((token) => {
    const bar = token.indexOf('|');
    return bar < 0 ? [token] : systems.includes(token.slice(0, bar)) ? [token.slice(bar + 1)] : [];
  });
}

/** Numbers as they are kept; what can't be read as one is looked for as it stands, and found nowhere. */
const kept = (value: string) => {
  const read = readContact(value);
  return read.ok ? read.value : value;
};

function contactsOf({ telecom, phone, email }: Wanted): PatientFilter['contacts'] {
  if (!telecom && !phone && !email) return null;
  const of = (tokens: readonly string[] | undefined, kind: 'phone' | 'email' | null, systems: readonly string[]) =>
    valuesOf(tokens, systems).map((value) => ({ kind, value: kept(value) }));
  return [
    ...of(telecom, null, ['phone', 'email', 'sms']),
    ...of(phone, 'phone', ['phone', 'sms']),
    ...of(email, 'email', ['email']),
  ];
}

/** Every word that was typed begins one of theirs (§3.1.1.4.8: from the beginning, without case or accents). */
function begins(typed: string | undefined, names: readonly string[]): boolean {
  const theirs = wordsOf(names.join(' '));
  return wordsOf(typed ?? '').every((word) => theirs.some((each) => each.startsWith(word)));
}

function isNamed({ name, family, given }: Wanted, patient: FhirPatient): boolean {
  const former = (part: 'givenName' | 'familyName') => patient.formerNames.map((each) => each[part]);
  const families = [patient.familyName, ...former('familyName')];
  const givens = [patient.givenName, patient.preferredName ?? '', ...former('givenName')];
  return begins(family, families) && begins(given, givens) && begins(name, [...families, ...givens]);
}

/** As many records as one search may give. */
const MOST = 500;

/** Records by what tells who somebody is; the search that finds patients on screen proposes, and the words must begin theirs. */
async function find(ctx: Ctx, input: Wanted) {
  const base = baseOf(ctx);
  const restricted = mayOpenRestricted(ctx);
  const names = [input.name, input.given, input.family].filter((each) => each !== undefined).join(' ');
  const named = names ? await findPatients(ctx.em, names, { restricted, today: latestDate(ctx) }) : null;
  const byName = named?.hits.filter(({ fit }) => fit !== 'slip').map(({ patientId }) => patientId);
  const asked = input._id;
  const { days } = dateBounds(input.birthdate);
  const ids = await patientIdsBy(
    ctx.em,
    {
      ids: byName && asked ? byName.filter((id) => asked.includes(id)) : (byName ?? asked ?? null),
      recordNumbers: input.identifier ? valuesOf(input.identifier, [systemsOf(base).recordNumber]) : null,
      contacts: contactsOf(input),
      bornFrom: days.from,
      bornUntil: days.until,
    },
    MOST,
  );
  const found = (await fhirPatients(ctx.em, ids, restricted)).filter((patient) => isNamed(input, patient));
  const page = found.slice(0, input._count);
  ctx.viewed(page.map(({ id }) => id));
  // What was searched for stays out of the answer's own address, too.
  const { _count } = input;
  const resources = page.map((row) => toPatient(row, base));
  return searchset(ctx, 'Patient', { _count }, { resources, total: found.length, nextPage: null });
}

type RelatedRow = Awaited<ReturnType<typeof relatedPersonRows>>[number];

function toResource(ctx: Ctx, row: RelatedRow) {
  const today = latestDate(ctx);
  const hidden = row.relatedPatient?.restricted && !mayOpenRestricted(ctx);
  const name = row.relatedPatient
    ? (hidden ? restrictedName : fullName)(row.relatedPatient.givenName, row.relatedPatient.familyName)
    : (row.relatedName ?? '');
  const active = row.fromDate <= today && (row.untilDate === null || row.untilDate >= today);
  return toRelatedPerson({ ...row, name, active });
}

/** Of a restricted patient, nobody is told who acts for them. */
const open = (ctx: Ctx, rows: readonly RelatedRow[]) =>
  rows.filter(({ patient }) => !patient.restricted || mayOpenRestricted(ctx));

async function searchRelated(ctx: Ctx, input: InputOf<typeof contract.searchRelatedPersons>) {
  const rows = open(
    ctx,
    await relatedPersonRows(ctx.em, { ids: input._id ?? null, patientIds: input.patient ?? null }),
  ).map((row) => ({ row, resource: toResource(ctx, row) }));
  const { page, ...rest } = pageOf(rows, input);
  ctx.viewed(page.map(({ row }) => row.patientId));
  return searchset(ctx, 'RelatedPerson', input, { resources: page.map(({ resource }) => resource), ...rest });
}

export const patientFhirEndpoints = [
  handle(contract.readPatient, async (ctx, { id }) => {
    const [row] = await fhirPatients(ctx.em, [id], mayOpenRestricted(ctx));
    // Whether there is a record that may not be opened is not said.
    if (!row) return ctx.fail('NotFound');
    ctx.viewed([id]);
    return asWire(toPatient(row, baseOf(ctx)));
  }),
  handle(contract.searchPatients, search),
  handle(contract.findPatients, find),
  handle(contract.readRelatedPerson, async (ctx, { id }) => {
    const [row] = open(ctx, await relatedPersonRows(ctx.em, { ids: [id], patientIds: null }));
    if (!row) return ctx.fail('NotFound');
    ctx.viewed([row.patientId]);
    return asWire(toResource(ctx, row));
  }),
  handle(contract.searchRelatedPersons, searchRelated),
];
