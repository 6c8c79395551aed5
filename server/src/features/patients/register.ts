import type { InputOf } from '@zaguan/contracts';
import type {
  LikePatient,
  likePatients as likeContract,
  registerPatients as contract,
} from '@zaguan/contracts/patients';
import { findCandidates, type Identity } from '@zaguan/core/matching';
import { readContact } from '@zaguan/core/messages';
import { ageOn, fullName, majorityAge, restrictedName } from '@zaguan/core/patients';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, latestDate, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { siteRows } from '../clinic/index.ts';
import { indexNamesOf } from '../patientSearch/index.ts';
import {
  addContactTo,
  insertPatient,
  nextRecordNumbers,
  putContactPoint,
  type RecordRow,
  recordsLike,
  recordsLikeEach,
  takeBackPatient,
} from '../people/index.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { editable } from './editable.ts';
import { deleteHousehold, insertHousehold, insertRelationship } from './patients.repository.ts';

type Registered = InputOf<typeof contract>;

/** Records that may be the person, with what agrees and differs; of a restricted one no more than that there is one. */
export async function likePatients(
  ctx: Ctx,
  { givenName, familyName, birthDate, contact }: InputOf<typeof likeContract>,
): Promise<AnswerOf<typeof likeContract>> {
  const read = readContact(contact);
  const typed = { givenName, familyName, birthDate: birthDate ?? '', contacts: read.ok ? [read.value] : [] };
  const records = unmerged(await recordsLike(ctx.em, typed));
  const all = mayOpenRestricted(ctx);
  // A birth date that many have is no reason to look.
  const worth = findCandidates(typed, records).filter(({ fields }) =>
    (['family-name', 'given-name', 'contact'] as const).some(
      (field) => fields[field] === 'agrees' || fields[field] === 'alike',
    ),
  );
  const patients = worth.flatMap(({ patientId, verdict, fields }): LikePatient[] => {
    const record = records.find((each) => each.patientId === patientId);
    if (!record) return [];
    const { givenName: given, familyName: family, status } = record;
    if (record.restricted && !all)
      return verdict === 'likely'
        ? [
            {
              ...{ patientId: null, recordNumber: null, name: restrictedName(given, family) },
              ...{ birthDate: null, contact: null, status: 'active', verdict, fields: NOT_TOLD },
            },
          ]
        : [];
    return [
      {
        ...{ patientId, recordNumber: record.recordNumber, name: fullName(given, family) },
        ...{ birthDate: record.birthDate, contact: record.contact || null, status, verdict, fields },
      },
    ];
  });
  ctx.viewed(patients.flatMap(({ patientId }) => patientId ?? []));
  return { patients };
}

/** What of a restricted record agrees would tell what stands there. */
const NOT_TOLD = {
  'family-name': 'unknown',
  'given-name': 'unknown',
  'birth-date': 'unknown',
  contact: 'unknown',
} as const;

/** A record that was merged away is found by the one it went into. */
const unmerged = (records: readonly RecordRow[]) => records.filter(({ status }) => status !== 'archived');

/** Registers one person or a household: all of them, with how they are reached and who acts for the children, or nobody. */
export async function registerPatients(ctx: Ctx, input: Registered): Promise<AnswerOf<typeof contract>> {
  const issues = input.people.flatMap(({ birthDate }, at) =>
    birthDate > latestDate(ctx) ? [{ path: `people.${at}.birthDate`, code: 'birth-in-future' }] : [],
  );
  if (issues.length) return ctx.fail('InvalidInput', { issues });
  // Its lock first: of two who register one person at once, the second sees whom the first did.
  const numbers = await nextRecordNumbers(ctx.em, input.people.length);
  const likely = await likelyOnRecord(ctx, input);
  if (likely) return likely;
  const householdId = input.people.length > 1 ? ctx.newId() : null;
  if (householdId) await insertHousehold(ctx.em, { id: householdId, name: householdName(input.people) });
  const patients: { id: string; recordNumber: string }[] = [];
  for (const [at, person] of input.people.entries()) {
    const id = ctx.newId();
    const { street, city, region, postalCode, language } = input;
    const { givenName, familyName, birthDate, sex, preferredName } = person;
    await insertPatient(ctx.em, {
      ...{ id, recordNumber: numbers[at], givenName, familyName, birthDate, sex, language, householdId },
      ...{ street, city, region, postalCode, createdAt: ctx.now, preferredName: preferredName || null },
      createdBy: ctx.actor.kind === 'staff' ? ctx.actor.accountId : null,
    });
    await indexNamesOf(ctx.em, id);
    await reachBy(ctx, id, [person.contact, input.contact]);
    patients.push({ id, recordNumber: numbers[at] });
    ctx.wrote({ subjects: [{ kind: 'patient', id }], after: { registered: true } });
  }
  await addGuardians(ctx, input, patients);
  const undo = await ctx.undoable({
    command: 'patients.takeBack',
    input: { ids: patients.map(({ id }) => id), householdId },
    label: { what: 'registered' },
  });
  return { patients, undo };
}

/** The name that most of them have. */
function householdName(people: Registered['people']): string {
  const names = people.map(({ familyName, givenName }) => familyName || givenName);
  const count = (name: string) => names.filter((each) => each === name).length;
  return names.reduce((best, name) => (count(name) > count(best) ? name : best));
}

/** Refuses while somebody on record is likely one of these people, and nobody has looked at them. */
async function likelyOnRecord(ctx: Ctx, input: Registered) {
  const seen = new Set(input.notThese);
  const all = mayOpenRestricted(ctx);
  const typed = input.people.map(({ contact, ...person }): Identity => {
    const reached = contact ?? input.contact;
    return { ...person, contacts: reached ? [reached] : [] };
  });
  const records = await recordsLikeEach(ctx.em, typed);
  const at = typed.findIndex((person, i) => {
    const rows = unmerged(records[i]);
    const isRestricted = (id: string) => rows.some((row) => row.patientId === id && row.restricted);
    return findCandidates(person, rows).some(
      // Who may not open a restricted record can't say that it is another person: a manager can.
      ({ patientId, verdict }) => verdict === 'likely' && (!seen.has(patientId) || (isRestricted(patientId) && !all)),
    );
  });
  return at < 0 ? null : ctx.fail('LikelySame', { facts: { person: at + 1 } });
}

/** Each way once, their own first. */
async function reachBy(ctx: Ctx, patientId: string, contacts: readonly (string | null)[]): Promise<void> {
  const ways = [...new Set(contacts.filter((contact) => contact !== null))];
  for (const [place, contact] of ways.entries())
    await addContactTo(ctx.em, patientId, await putContactPoint(ctx.em, ctx.newId(), contact), { rank: place + 1 });
}

/** Dated relationships for everybody who is a child today; a guardian who is a patient too is named by their record. */
async function addGuardians(
  ctx: Ctx,
  { people, guardians }: Registered,
  patients: readonly { id: string }[],
): Promise<void> {
  const [site] = await siteRows(ctx.em);
  const today = epochToWall(site?.timeZone ?? 'UTC', nowMinute(ctx)).date;
  const ofAge = majorityAge(site?.region ?? '');
  for (const [at, child] of people.entries()) {
    if (ageOn(child.birthDate, today) >= ofAge) continue;
    for (const { person, name, kind, rights } of guardians) {
      if (person === at) continue;
      const related = person === null ? null : people[person];
      await insertRelationship(ctx.em, {
        ...{ id: ctx.newId(), patientId: patients[at].id, kind, rights, fromDate: today, untilDate: null, limits: '' },
        relatedPatientId: person === null ? null : patients[person].id,
        name: related ? fullName(related.givenName, related.familyName) : name,
      });
    }
  }
}

/** The inverse: records that nothing hangs on yet go; the others are archived. */
export async function takeBackRegistered(
  ctx: Ctx,
  { ids, householdId }: { ids: readonly string[]; householdId: string | null },
): Promise<UndoAnswer> {
  for (const id of ids) {
    const row = await editable(ctx, id);
    if (row instanceof Failure) return row;
  }
  let isEmpty = true;
  for (const id of ids) {
    if (!(await takeBackPatient(ctx.em, id))) isEmpty = false;
    ctx.wrote({ subjects: [{ kind: 'patient', id }], before: { registered: true }, after: { registered: false } });
  }
  if (householdId && isEmpty) await deleteHousehold(ctx.em, householdId);
  return {};
}
