import { addDays, type LocalDate, wallToEpoch, weekdayOf } from '@zaguan/core/time';
import { setClock } from '@zaguan/server/platform/clock/clock';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { loadClinic } from './clinic.ts';
import { loadIntake } from './intake.ts';
import { loadAccounts, loadPatients } from './people.ts';
import { makeRandom } from './random.ts';
import { loadVestibule } from './vestibule.ts';
import { loadVisits } from './visits.ts';

const SEED = 20_261_123;
const PATIENTS = 140;
/** 10:20 at the first site. */
const OPENS_AT_MINUTE = 620;

/** The nearest working weekday: Saturday goes back to Friday, Sunday on to Monday. */
export function demoDay(today: LocalDate): LocalDate {
  const weekday = weekdayOf(today);
  return weekday === 6 ? addDays(today, -1) : weekday === 7 ? addDays(today, 1) : today;
}

/** Whether a clinic was loaded into this database before. */
export async function isLoaded(orm: Orm): Promise<boolean> {
  const rows = await orm.em.getConnection().execute<unknown[]>('select 1 from clinic');
  return rows.length > 0;
}

/** Fills an empty, migrated database with the demo clinic and sets its clock. Returns what it made. */
export async function loadDemo(
  orm: Orm,
  realToday: LocalDate,
): Promise<{ patients: number; visits: number; now: Date }> {
  const today = demoDay(realToday);
  const now = new Date(wallToEpoch('America/Chicago', today, OPENS_AT_MINUTE) * 60_000);
  await setClock(orm.em.fork(), now);
  const random = makeRandom(SEED);
  await loadClinic(orm, today);
  await loadAccounts(orm, now);
  const patients = await loadPatients(orm, today, random, PATIENTS);
  const visits = await loadVisits(orm, today, now, patients, random);
  await loadIntake(orm, today, now, random);
  await loadVestibule(orm, today, now);
  return { patients: patients.length, visits, now };
}
