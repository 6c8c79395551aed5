import { ageOn, majorityAge, OF_AGE_ANYWHERE, rightsOn } from '@zaguan/core/patients';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, earliestDate, nowMinute } from '../../platform/endpoint/context.ts';
import { siteOf } from '../clinic/index.ts';
import { whoActsFor } from '../people/index.ts';
import type { Asked } from './resolve.ts';

/** Somebody who may book for a patient. */
export interface MayBook {
  readonly id: string;
  readonly name: string;
  readonly kind: string;
  readonly limits: string;
}

/** Whether a patient is not of age in a state, and who may book for them today. */
export async function whoMayBook(
  ctx: Ctx,
  patient: Pick<Asked['patient'], 'id' | 'birthDate'>,
  site: { readonly region: string; readonly timeZone: string },
): Promise<{ isMinor: boolean; mayBook: MayBook[] }> {
  const today = epochToWall(site.timeZone, nowMinute(ctx)).date;
  const who = { birthDate: patient.birthDate, majorityAge: majorityAge(site.region) };
  const rows = await whoActsFor(ctx.em, patient.id);
  const mayBook = rows
    .filter((row) => rightsOn(row, today, who).includes('book'))
    .map(({ id, name, kind, limits }) => ({ id, name, kind, limits }));
  return { isMinor: ageOn(patient.birthDate, today) < who.majorityAge, mayBook };
}

/**
 * Whether somebody may book for a patient: the patient, if of age; else a relationship with that right. For a child
 * nobody is recorded for, the desk asks and books: that nobody may is not known.
 *
 * @param askedBy the relationship of who asks; `null`: the patient
 */
export async function mayBookFor(ctx: Ctx, { patient, siteId }: Asked, askedBy: string | null): Promise<boolean> {
  // Of age everywhere: nothing has to be looked up.
  if (askedBy === null && ageOn(patient.birthDate, earliestDate(ctx)) >= OF_AGE_ANYWHERE) return true;
  const { isMinor, mayBook } = await whoMayBook(ctx, patient, await siteOf(ctx.em, siteId));
  if (askedBy !== null) return mayBook.some(({ id }) => id === askedBy);
  return !isMinor || mayBook.length === 0;
}
