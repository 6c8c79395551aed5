import type { InputOf } from '@zaguan/contracts';
import { type FoundPatient, searchPatients } from '@zaguan/contracts/patients';
import { ageOn, fullName } from '@zaguan/core/patients';
import type { Findable, Hit } from '@zaguan/core/patientSearch';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { type AnswerOf, handle } from '../../platform/endpoint/handler.ts';
import type { Sweep } from '../../platform/jobs/sweeps.sql.ts';
import { siteRows } from '../clinic/index.ts';
import { mayOpenRestricted } from '../restricted/index.ts';
import { indexNames } from './indexNames.ts';
import { findPatients } from './findPatients.ts';
import { type Brief, briefs } from './patientSearch.sql.ts';

export { indexNames, indexNamesOf } from './indexNames.ts';

const MAX_SHOWN = 20;

async function search(ctx: Ctx, { text }: InputOf<typeof searchPatients>): Promise<AnswerOf<typeof searchPatients>> {
  const [site] = await siteRows(ctx.em);
  const { date: today } = epochToWall(site?.timeZone ?? 'UTC', nowMinute(ctx));
  const { hits, patients, isCut } = await findPatients(ctx.em, text, { restricted: mayOpenRestricted(ctx), today });
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
      const [patient, brief] = [patients.get(hit.patientId), byId.get(hit.patientId)];
      return patient && brief ? [toFound(hit, patient, brief, today)] : [];
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

/** One transaction, seconds of work. */
const MOST_A_SWEEP = 20_000;

/** Names whose words somebody did not write, and records from before there was a search. */
export const patientSearchSweeps: readonly Sweep[] = [
  {
    name: 'names to be found',
    run: async (em) => {
      await indexNames(em, MOST_A_SWEEP);
    },
  },
];
