import { type LocalDate, wallToEpoch } from '@zaguan/core/time';
import { demoDay, OPENS_AT_MINUTE } from '../day.ts';
import { indexNames } from '@zaguan/server/features/patientSearch/index';
import { setClock } from '@zaguan/server/platform/clock/clock';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { loadClinic } from './clinic.ts';
import { FOR_EVERY_VISIT } from '../forms.ts';
import { loadEncounters, loadIntake } from '../intake.ts';
import { loadAccounts } from '../accounts.ts';
import { loadPatients } from './people.ts';
import { makeRandom } from '../random.ts';
import { loadCommonReasons } from '../commonReasons.ts';
import { TYPES } from './ids.ts';
import { loadIdentityReview } from '../identityReview.ts';
import { loadVisits } from './visits.ts';

const SEED = 20_261_123;
const PATIENTS = 140;

/** Fills an empty, migrated database with an excerpt of the demo clinic, small enough to be made for every test, and sets its clock. */
export async function loadExcerpt(
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
  await loadEncounters(orm, await loadIntake(orm, today, now, random, FOR_EVERY_VISIT));
  await loadCommonReasons(orm, TYPES);
  await loadIdentityReview(orm, today, now);
  await orm.em.fork().transactional((em) => indexNames(em));
  return { patients: patients.length, visits, now };
}
