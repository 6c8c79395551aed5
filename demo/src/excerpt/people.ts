import type { Orm } from '@zaguan/server/platform/db/orm';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { FAMILY, GIVEN } from '../names.ts';
import { idOf, type Random } from '../random.ts';
import { insertRows } from '../rows.ts';

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
