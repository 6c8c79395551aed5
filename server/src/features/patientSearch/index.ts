import type { InputOf } from '@zaguan/contracts';
import { type FoundPatient, searchPatients } from '@zaguan/contracts/patients';
import { ageOn, fullName } from '@zaguan/core/patients';
import { type Findable, type Hit, rankPatients, readQuery } from '@zaguan/core/patientSearch';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { type AnswerOf, handle } from '../../platform/endpoint/handler.ts';
import type { Sweep } from '../../platform/jobs/sweeps.sql.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { indexNames } from './indexNames.ts';
import { type Brief, briefs, proposed, wordsWithGaps } from './patientSearch.sql.ts';
import { gapsOfReadings, slipsAmong, waysOf } from './ways.ts';

export { indexNames } from './indexNames.ts';

/** As many patients are looked at for one way to look them up. */
const MAX_PROPOSED = 300;
const MAX_SHOWN = 20;

async function search(ctx: Ctx, { text }: InputOf<typeof searchPatients>): Promise<AnswerOf<typeof searchPatients>> {
  const when = { today: epochToWall('UTC', nowMinute(ctx)).date, order: 'month-first' as const };
  const readings = readQuery(text, when.today, when.order);
  const gaps = gapsOfReadings(readings);
  const slips = slipsAmong(readings, gaps.length ? await wordsWithGaps(ctx.em, gaps) : []);
  const reader = { restricted: mayOpenRestricted(ctx), most: MAX_PROPOSED };
  const found = new Map<string, Findable>();
  let isCut = false;
  for (const way of readings.flatMap((reading) => waysOf(reading, slips))) {
    const some = await proposed(ctx.em, way, reader);
    isCut ||= some.length === MAX_PROPOSED;
    for (const patient of some) found.set(patient.patientId, patient);
  }
  const hits = rankPatients(text, [...found.values()], when);
  const shown = hits.slice(0, MAX_SHOWN);
  const rows = await briefs(
    ctx.em,
    shown.map(({ patientId }) => patientId),
    ctx.now,
  );
  ctx.viewed(shown.map(({ patientId }) => patientId));
  const byId = new Map(rows.map((row) => [row.id, row]));
  return {
    patients: shown.flatMap((hit) => {
      const [patient, brief] = [found.get(hit.patientId), byId.get(hit.patientId)];
      return patient && brief ? [toFound(hit, patient, brief, when.today)] : [];
    }),
    more: isCut || hits.length > MAX_SHOWN,
  };
}

function toFound({ fit }: Hit, patient: Findable, brief: Brief, today: string): FoundPatient {
  const [phone] = patient.phones;
  const former = patient.formerNames.map(({ givenName, familyName }) =>
    fullName(givenName || patient.givenName, familyName || patient.familyName),
  );
  return {
    id: patient.patientId,
    fit,
    name: fullName(patient.givenName, patient.familyName),
    preferredName: patient.preferredName,
    formerNames: former,
    birthDate: patient.birthDate,
    age: ageOn(patient.birthDate, today),
    phoneEnd: phone ? phone.slice(-4) : null,
    recordNumber: patient.recordNumber,
    siteName: brief.siteName,
    lastVisit: brief.lastVisit,
    nextVisit: brief.nextVisit,
    status: brief.status,
    restricted: brief.restricted,
  };
}

export const patientSearchEndpoints = [handle(searchPatients, search)];

/** Names whose words somebody did not write, and records from before there was a search. */
export const patientSearchSweeps: readonly Sweep[] = [
  {
    name: 'names to be found',
    run: async (em) => {
      await indexNames(em);
    },
  },
];
