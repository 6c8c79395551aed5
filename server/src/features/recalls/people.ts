import { fullName, restrictedName } from '@zaguan/core/patients';
import type { LocalDate } from '@zaguan/core/time';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import type { Patient } from '../../schema/index.ts';
import { siteRows } from '../clinic/index.ts';
import { mayOpenRecord } from '../restricted/index.ts';
import { patientRow } from './recalls.repository.ts';

/** The date at the clinic's first site, for what is of no site. */
export async function clinicToday(ctx: Ctx): Promise<LocalDate> {
  const [site] = await siteRows(ctx.em);
  return epochToWall(site?.timeZone ?? 'UTC', nowMinute(ctx)).date;
}

type Named = Pick<Patient, 'id' | 'givenName' | 'familyName' | 'restricted'>;

/** Somebody's name, or "Restricted" and initials where the reader may not open the record. */
export async function nameFor(ctx: Ctx, patient: Named): Promise<{ name: string; hidden: boolean }> {
  const hidden = !(await mayOpenRecord(ctx, patient));
  return { name: (hidden ? restrictedName : fullName)(patient.givenName, patient.familyName), hidden };
}

/** A patient that something is to be done for; a restricted record must be opened first. */
export async function patientFor(ctx: Ctx, id: string): Promise<Named | Failure<'NotFound' | 'NotAllowed'>> {
  const patient = await patientRow(ctx.em, id);
  if (!patient) return ctx.fail('NotFound');
  if (!(await mayOpenRecord(ctx, patient))) return ctx.fail('NotAllowed', { facts: { restricted: true } });
  return patient;
}
