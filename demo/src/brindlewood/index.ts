import { ClinicStore } from '@zaguan/core/openings';
import { addDays, type LocalDate, wallToEpoch } from '@zaguan/core/time';
import { loadSnapshot } from '@zaguan/server/features/openings/index';
import { indexNames } from '@zaguan/server/features/patientSearch/index';
import { setClock } from '@zaguan/server/platform/clock/clock';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { loadAccounts } from '../accounts.ts';
import { demoDay, OPENS_AT_MINUTE } from '../day.ts';
import { loadIntake } from '../intake.ts';
import { makeRandom } from '../random.ts';
import { loadCommonReasons } from '../commonReasons.ts';
import { TYPE } from './visitTypeData.ts';
import { loadIdentityReview } from '../identityReview.ts';
import { History } from './history.ts';
import { loadHours } from './hours.ts';
import { loadOutbox } from './outbox.ts';
import { PACKET_DOCUMENTS } from './papers.ts';
import { inventPatients, loadPatients } from './patients.ts';
import { loadPeople } from './people.ts';
import { loadPlaces } from './places.ts';
import { ruleFrom } from '../defaults.ts';
import { loadInvitations } from './invitations.ts';
import { loadRecalls } from './recalls.ts';
import { loadSites, ZONE } from './sites.ts';
import { loadOwnFields, loadSetup } from './setup.ts';
import { failCarrier, loadStory } from './story.ts';
import { writeVisits } from './visitRows.ts';
import { loadViews } from './views.ts';
import { loadWaiting } from './waiting.ts';
import { loadVisitTypes } from './visitTypes.ts';

const SEED = 20_261_123;
const DAYS_BACK = 364;
const DAYS_AHEAD = 56;

export interface Loaded {
  readonly patients: number;
  readonly visits: number;
  readonly now: Date;
}

/**
 * Fills an empty, migrated database with Brindlewood Allergy & Asthma, whole, and sets its clock to 10:20 at the first
 * site of the nearest working weekday. The same day gives the same clinic.
 *
 * @param tell hears what is being done, for work that takes some seconds
 */
export async function loadDemo(
  orm: Orm,
  realToday: LocalDate,
  { patients: count = 2600, tell = () => undefined }: { patients?: number; tell?: (what: string) => void } = {},
): Promise<Loaded> {
  const today = demoDay(realToday);
  const now = new Date(wallToEpoch(ZONE.canal, today, OPENS_AT_MINUTE) * 60_000);
  await setClock(orm.em.fork(), now);
  const from = addDays(today, -DAYS_BACK);
  const until = addDays(today, DAYS_AHEAD);
  const rule = ruleFrom(from);
  tell('the clinic: sites, people, rooms, visit types, hours');
  await loadSites(orm, from, until, rule);
  await loadPeople(orm);
  await loadPlaces(orm);
  await loadVisitTypes(orm);
  await loadSetup(orm);
  await loadViews(orm);
  await loadHours(orm, today, rule);
  await loadAccounts(orm, now);

  tell('the patients');
  const random = makeRandom(SEED);
  const invented = inventPatients(today, random, count);
  tell('a year of visits and eight weeks to come');
  const store = new ClinicStore(await loadSnapshot(orm.em.fork(), { from, until }, now));
  const history = new History(store, invented.patients, today, from, random);
  await loadPatients(orm, today, invented);
  await orm.em.fork().transactional((em) => indexNames(em));
  await planAndWrite(orm, history, { from, until }, now);
  await orm.em.getConnection().execute(NEWCOMERS);
  tell('forms and signatures, and the day’s story');
  await loadIntake(orm, today, now, random, PACKET_DOCUMENTS);
  await loadCommonReasons(orm, TYPE);
  await loadIdentityReview(orm, today, now);
  await loadStory(orm, today, now);
  await loadWaiting(orm, today, now);
  await loadOwnFields(orm, now);
  tell('messages that went out and that wait');
  await loadOutbox(orm, now);
  await failCarrier(orm, ZONE.canal, today);
  await loadRecalls(orm);
  await loadInvitations(orm, now, ZONE.canal);
  return { patients: invented.patients.length, visits: history.visits.length, now };
}

const WRITTEN_AT_ONCE = 2500;

/** The database writes one stretch of the schedule while the next is planned. */
async function planAndWrite(
  orm: Orm,
  history: History,
  { from, until }: { from: LocalDate; until: LocalDate },
  now: Date,
): Promise<void> {
  const random = makeRandom(SEED + 1);
  let done = 0;
  let writing: Promise<void> = Promise.resolve();
  for (const _ of history.fill(from, until)) {
    // The socket is served between two dates.
    await new Promise((resolve) => setImmediate(resolve));
    if (history.visits.length - done < WRITTEN_AT_ONCE) continue;
    await writing;
    writing = writeVisits(orm, history.visits.slice(done), now, random);
    done = history.visits.length;
  }
  await writing;
  await writeVisits(orm, history.visits.slice(done), now, random);
}

/** New is who has a visit booked and none fulfilled. */
const NEWCOMERS = `update patient p set status = 'new' where p.status = 'active'
  and exists (select 1 from appointment a where a.patient_id = p.id and a.patient_kind = 'new')
  and not exists (select 1 from appointment a where a.patient_id = p.id and a.status = 'fulfilled')`;
