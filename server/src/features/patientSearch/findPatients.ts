import { type Findable, type Hit, rankPatients, readQuery } from '@zaguan/core/patientSearch';
import type { LocalDate } from '@zaguan/core/time';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import { proposed, wordsWithGaps } from './patientSearch.sql.ts';
import { gapsOfReadings, slipsAmong, waysOf } from './ways.ts';

/** As many patients are looked at for one way to look them up. */
const MAX_PROPOSED = 200;

export interface Ranked {
  readonly hits: readonly Hit[];
  readonly patients: ReadonlyMap<string, Findable>;
  /** There were more than are looked at: the best of them may not be among these. */
  readonly isCut: boolean;
}

/**
 * Patients whom a text finds, best first. The database proposes those who may be meant; core judges and ranks.
 *
 * @param restricted whether restricted records are found too
 * @param today the date at the clinic; nobody is born after it
 */
export async function findPatients(
  em: SqlEntityManager,
  text: string,
  { restricted, today }: { readonly restricted: boolean; readonly today: LocalDate },
): Promise<Ranked> {
  const when = { today, order: 'month-first' as const };
  const readings = readQuery(text, when.today, when.order);
  const gaps = gapsOfReadings(readings);
  const slips = slipsAmong(readings, gaps.length ? await wordsWithGaps(em, gaps) : []);
  const ways = readings.flatMap((reading) => waysOf(reading, slips));
  const { patients: some, isCut } = await proposed(em, ways, { restricted, most: MAX_PROPOSED });
  const patients = new Map(some.map((patient) => [patient.patientId, patient]));
  return { hits: rankPatients(text, [...patients.values()], when), patients, isCut };
}
