import { addDays, type LocalDate } from '@zaguan/core/time';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { MANY_FAMILY, MANY_GIVEN } from '../names.ts';
import { idOf, type Random } from '../random.ts';
import { insertRows, type Row } from '../rows.ts';
import type { DemoPatient } from './demoPatient.ts';
import { codesOf, detailsOf } from './patientDetails.ts';
import type { SiteKey } from './sites.ts';

const HOUSEHOLDS = 1500;
/** Records entered twice, left for the list of duplicates to find. */
const TWICE = 14;
const ADULT_DAYS = 18 * 366;

/** Area codes of the three states; with 555-0100 to 555-0199 a number for every household. */
const AREA: Record<SiteKey, readonly string[]> = {
  canal: ['312', '773', '872', '224', '331', '464'],
  orchard: ['630', '708', '815', '847'],
  mesa: ['720', '303', '970', '719', '983'],
  saltbush: ['602', '480', '623', '520'],
};

interface Household {
  readonly at: number;
  readonly family: string;
  readonly site: SiteKey;
  readonly language: 'en' | 'es';
  readonly phone: string;
}

/** Adds one who was entered twice: a letter off, or given and family name in each other's field. */
function enteredAgain(person: DemoPatient, i: number): DemoPatient {
  const swapped = i % 2 === 0;
  return {
    ...person,
    id: idOf(`again ${person.id}`),
    recordNumber: `B${90_000 + i}`,
    given: swapped ? person.family : `${person.given.slice(0, -1)}${person.given.endsWith('a') ? 'e' : 'a'}`,
    family: swapped ? person.given : person.family,
    status: 'active',
  };
}

/** Invented people in households, before any of them had a visit. */
export function inventPatients(today: LocalDate, random: Random, count: number) {
  const households: Household[] = Array.from({ length: HOUSEHOLDS }, (_, at) => {
    const site = random.pick<SiteKey>(SITE_SHARES);
    const codes = AREA[site];
    return {
      at,
      family: random.pick(MANY_FAMILY),
      site,
      language: random.chance(0.2) ? 'es' : 'en',
      phone: `+1${codes[Math.floor(at / 100) % codes.length]}555${String(100 + (at % 100)).padStart(4, '0')}`,
    };
  });
  const patients: DemoPatient[] = [];
  for (let i = 0; patients.length < count - TWICE; i++) {
    const household = households[i < HOUSEHOLDS ? i : random.int(0, HOUSEHOLDS - 1)];
    // The first of a household is grown up; those added later are mostly children.
    const child = i >= HOUSEHOLDS && random.chance(0.8);
    const days = child ? random.int(400, ADULT_DAYS) : random.int(ADULT_DAYS + 300, 30_000);
    patients.push({
      id: idOf(`patient ${i}`),
      given: random.pick(MANY_GIVEN),
      family: household.family,
      birthDate: addDays(today, -days),
      language: household.language,
      household: household.at,
      site: household.site,
      recordNumber: `B${10_000 + i}`,
      status: random.chance(0.04) ? 'inactive' : random.chance(0.004) ? 'deceased' : 'active',
      restricted: random.chance(0.006),
    });
  }
  const again = patients.slice(40, 40 + TWICE).map(enteredAgain);
  return { households, patients: [...patients, ...again] };
}

const SITE_SHARES: readonly SiteKey[] = [
  ...Array<SiteKey>(9).fill('canal'),
  ...Array<SiteKey>(5).fill('orchard'),
  ...Array<SiteKey>(5).fill('mesa'),
  ...Array<SiteKey>(2).fill('saltbush'),
];

/** Writes the people down: households, ways to reach them, and who may act for whom. */
export async function loadPatients(
  orm: Orm,
  today: LocalDate,
  { households, patients }: ReturnType<typeof inventPatients>,
): Promise<void> {
  await insertRows(
    orm,
    'household',
    households.map(({ at, family }) => ({ id: idOf(`household ${at}`), name: `${family} household` })),
  );
  await insertRows(
    orm,
    'patient',
    patients.map((person, i) => ({
      id: person.id,
      record_number: person.recordNumber,
      given_name: person.given,
      family_name: person.family,
      preferred_name: i % 23 === 0 ? person.given.slice(0, 3) : null,
      birth_date: person.birthDate,
      sex: i % 2 ? 'female' : 'male',
      language: person.language,
      status: person.status,
      restricted: person.restricted,
      household_id: idOf(`household ${person.household}`),
      version: 1,
      created_at: `${addDays(today, -400 + (i % 30))}T15:00:00Z`,
      ...detailsOf(person, i),
    })),
  );
  await insertRows(orm, 'patient_code', codesOf(patients, `${addDays(today, -300)}T15:00:00Z`));
  await loadContacts(orm, households, patients);
  await insertRows(orm, 'relationship', relationships(today, patients));
}

async function loadContacts(
  orm: Orm,
  households: readonly Household[],
  patients: readonly DemoPatient[],
): Promise<void> {
  const phones = new Map(households.map(({ phone }) => [phone, idOf(`contact ${phone}`)]));
  // Numbers repeat where a site has more households than its area codes hold: those share one, as some people do.
  const mails = patients
    .filter((_, i) => i % 5 === 0)
    .map((person) => ({
      person,
      value: `${ascii(person.given)}.${ascii(person.family)}.${person.recordNumber.toLowerCase()}@example.com`,
    }));
  await insertRows(orm, 'contact_point', [
    ...[...phones].map(([value, id]) => ({ id, kind: 'phone', value })),
    ...mails.map(({ value }) => ({ id: idOf(`contact ${value}`), kind: 'email', value })),
  ]);
  await insertRows(orm, 'patient_contact', [
    ...patients.map((person) => ({
      patient_id: person.id,
      contact_point_id: phones.get(households[person.household].phone),
      use: 'mobile',
      rank: 1,
    })),
    ...mails.map(({ person, value }) => ({
      patient_id: person.id,
      contact_point_id: idOf(`contact ${value}`),
      use: 'home',
      rank: 2,
    })),
  ]);
}

function ascii(name: string): string {
  return name
    .normalize('NFD')
    .replace(/[^A-Za-z]/g, '')
    .toLowerCase();
}

/** Each child with one guardian of the household who may do everything; some with a second who may not sign. */
/** Of the parent who does not live there. */
const LIMITS = 'Consents are signed by the other parent.';

function relationships(today: LocalDate, patients: readonly DemoPatient[]): Row[] {
  const adultOn = addDays(today, -ADULT_DAYS);
  const parents = new Map<number, DemoPatient>();
  for (const person of patients)
    if (person.birthDate <= adultOn && !parents.has(person.household)) parents.set(person.household, person);
  return patients
    .filter((person) => person.birthDate > adultOn)
    .flatMap((child, i) => {
      const parent = parents.get(child.household);
      const row = (who: Partial<Row>, kind: string, may_sign: boolean): Row => ({
        id: idOf(`relationship ${child.id} ${kind} ${may_sign}`),
        patient_id: child.id,
        related_patient_id: null,
        related_name: null,
        kind,
        may_book: true,
        may_sign,
        may_receive: true,
        may_see: true,
        from_date: child.birthDate,
        until_date: null,
        limits: '',
        ...who,
      });
      return [
        row(parent ? { related_patient_id: parent.id } : { related_name: `Alex ${child.family}` }, 'parent', true),
        ...(i % 6 === 0 ? [row({ related_name: `Robin ${child.family}`, limits: LIMITS }, 'parent', false)] : []),
      ];
    });
}
