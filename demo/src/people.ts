import { DEMO_PASSWORD, hashPassword } from '@zaguan/server/features/accounts/index';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { insertRows, PROVIDERS, SITES } from './clinicRows.ts';
import { idOf, type Random } from './random.ts';

const GIVEN = [
  'Amara',
  'Beatriz',
  'Colm',
  'Dalia',
  'Emre',
  'Fiona',
  'Gael',
  'Hana',
  'Ivo',
  'Jun',
  'Kaya',
  'Luz',
  'Mateo',
  'Nadia',
  'Omar',
  'Petra',
  'Quinn',
  'Rosa',
  'Sami',
  'Tala',
  'Uma',
  'Vera',
  'Wim',
  'Ximena',
  'Yusuf',
  'Zora',
];
const FAMILY = [
  'Abara',
  'Brandt',
  'Castel',
  'Dunmore',
  'Eskola',
  'Farrow',
  'Guillen',
  'Hsu',
  'Ibarra',
  'Jolley',
  'Kapoor',
  'Lindqvist',
  'Moreau',
  "O'Brien",
  'Pardo',
  'Quispe',
  'Ramires',
  'Sato',
  'Tollive',
  'Ueda',
  'Varga',
  'Whitlow',
  'Xu',
  'Yazzie',
  'Zamora',
];

export const STAFF = [
  { role: 'coordinator', name: 'Ines Kessler', email: 'ines@example.com' },
  { role: 'manager', name: 'Noor Haddad', email: 'noor@example.com' },
  { role: 'front-desk', name: 'Bo Lindgren', email: 'bo@example.com' },
  { role: 'provider', name: 'Dr. Inés Amaya', email: 'amaya@example.com' },
  { role: 'read-only', name: 'Pat Quill', email: 'pat@example.com' },
] as const;

/** One account a role; the front desk's is bound to Canal Row, the provider's to Dr. Amaya's own hours. */
export async function loadAccounts(orm: Orm, now: Date): Promise<void> {
  const password_hash = await hashPassword(DEMO_PASSWORD);
  await insertRows(
    orm,
    'account',
    STAFF.map((person, i) => ({
      id: idOf(`account ${person.role}`),
      email: person.email,
      name: person.name,
      role: person.role,
      password_hash,
      resource_id: person.role === 'provider' ? PROVIDERS.amaya : null,
      demo: true,
      active: true,
      failed_sign_ins: 0,
      locked_until: null,
      created_at: new Date(now.getTime() + i).toISOString(),
    })),
  );
  await insertRows(orm, 'account_site', [{ account_id: idOf('account front-desk'), site_id: SITES.canal }]);
}

export interface DemoPatient {
  id: string;
  given: string;
  family: string;
  kind: 'new' | 'established';
}

/** Invented people with 555-01xx numbers; a fifth prefers Spanish. */
export async function loadPatients(orm: Orm, today: LocalDate, random: Random, count: number): Promise<DemoPatient[]> {
  const people = Array.from({ length: count }, (_, i) => ({
    id: idOf(`patient ${i}`),
    given: random.pick(GIVEN),
    family: random.pick(FAMILY),
    kind: random.chance(0.15) ? ('new' as const) : ('established' as const),
  }));
  const created_at = `${addDays(today, -300)}T15:00:00Z`;
  await insertRows(
    orm,
    'patient',
    people.map((person, i) => ({
      id: person.id,
      record_number: `B${String(10_000 + i)}`,
      given_name: person.given,
      family_name: person.family,
      preferred_name: null,
      birth_date: addDays(today, -random.int(900, 29_000)),
      sex: random.pick(['female', 'male']),
      language: random.chance(0.2) ? 'es' : 'en',
      status: person.kind === 'new' ? 'new' : 'active',
      restricted: false,
      household_id: null,
      version: 1,
      created_at,
    })),
  );
  await insertRows(
    orm,
    'contact_point',
    people.map((_, i) => ({
      id: idOf(`phone ${i}`),
      kind: 'phone',
      value: `+1${[312, 720, 602][i % 3]}555${String(100 + (Math.floor(i / 3) % 100)).padStart(4, '0')}`,
    })),
  );
  await insertRows(
    orm,
    'patient_contact',
    people.map((person, i) => ({
      patient_id: person.id,
      contact_point_id: idOf(`phone ${i}`),
      use: 'mobile',
      rank: 1,
    })),
  );
  return people;
}
