import type { FoundPatient } from '@zaguan/contracts/patients';
import { ageOn, fullName } from '@zaguan/core/patients';
import type { Findable, Hit } from '@zaguan/core/patientSearch';
import { epochToWall, type LocalDate } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { siteRows } from '../clinic/index.ts';
import type { Brief } from './patientSearch.sql.ts';

/** The date at the clinic's first site. */
export async function todayAt(ctx: Ctx): Promise<LocalDate> {
  const [site] = await siteRows(ctx.em);
  return epochToWall(site?.timeZone ?? 'UTC', nowMinute(ctx)).date;
}

/** A patient as a search shows them: what tells two of one name apart. */
export function toFound({ fit }: Hit, patient: Findable, brief: Brief, today: string): FoundPatient {
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
