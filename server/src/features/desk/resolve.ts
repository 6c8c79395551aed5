import { fromWire } from '@zaguan/contracts';
import type { AskedVisit } from '@zaguan/contracts/desk';
import { faultOfParts, partsFor } from '@zaguan/core/findTime';
import { askedType, type ClinicStore, needsProvider, type SearchCriteria } from '@zaguan/core/openings';
import { type EpochMinute, epochToWall, type LocalDate } from '@zaguan/core/time';
import type { Part } from '@zaguan/core/visits';
import { coversSite, type Ctx, earliestDate } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import type { Action } from '../../platform/endpoint/types.ts';
import type { Patient } from '../../schema/index.ts';
import { mayOpenRecord } from '../restricted/index.ts';
import { patientsToBook } from './desk.repository.ts';

/** A visit somebody asks for, as core plans it. */
export interface Asked {
  readonly patient: Patient;
  readonly criteria: SearchCriteria;
  readonly siteId: string;
  readonly providerId: string | null;
  readonly start: EpochMinute;
  /** Date of the start at the site. */
  readonly date: LocalDate;
  readonly timeZone: string;
  /** Minutes kept between the provider's visits, as the type asks. */
  readonly beforeMin: number;
  readonly afterMin: number;
}

export type ResolveRefusal = Failure<'NotFound' | 'NotAllowed' | 'NotBookable' | 'InvalidInput'>;

/**
 * What visits asked for at the desk come to: whom and what they name must be there, be open to the caller, and fit
 * together. Their times are not judged yet.
 *
 * @param keep the patients stay as they are until the transaction ends
 */
export async function resolveVisits(
  ctx: Ctx,
  visits: readonly AskedVisit[],
  action: Action,
  { keep }: { readonly keep: boolean },
): Promise<readonly Asked[] | ResolveRefusal> {
  if (visits.some(({ siteId }) => !coversSite(ctx, action, siteId)))
    return ctx.fail('NotAllowed', { facts: { action } });
  const patients = await bookablePatients(
    ctx,
    visits.map(({ patientId }) => patientId),
    { keep },
  );
  if (patients instanceof Failure) return patients;
  const today = earliestDate(ctx);
  const store = await ctx.clinic({ from: today, until: today });
  const asked: Asked[] = [];
  for (const [i, visit] of visits.entries()) {
    const patient = patients.get(visit.patientId) as Patient;
    const one = resolveVisit(ctx, store, visit, patient, `visits.${i}`);
    if (one instanceof Failure) return one;
    asked.push(one);
  }
  return asked;
}

/** Patients by their ids, if every one of them can be booked by the caller. */
export async function bookablePatients(
  ctx: Ctx,
  ids: readonly string[],
  { keep }: { readonly keep: boolean },
): Promise<ReadonlyMap<string, Patient> | Failure<'NotFound' | 'NotAllowed' | 'NotBookable'>> {
  const rows = new Map((await patientsToBook(ctx.em, [...new Set(ids)], keep)).map((row) => [row.id, row]));
  for (const id of ids) {
    const row = rows.get(id);
    if (!row) return ctx.fail('NotFound');
    if (!(await mayOpenRecord(ctx, row))) return ctx.fail('NotAllowed');
    if (row.status === 'archived' || row.status === 'deceased')
      return ctx.fail('NotBookable', { facts: { status: row.status } });
  }
  return rows;
}

/** As what a patient on record books. */
export function kindOf({ status }: Pick<Patient, 'status'>): 'new' | 'established' {
  return status === 'new' ? 'new' : 'established';
}

type Wanted = Omit<AskedVisit, 'patientId' | 'siteId' | 'providerId' | 'start'>;

/** By what a visit is searched and judged at the desk. */
export function criteriaFor(
  ctx: Ctx,
  store: ClinicStore,
  wanted: Wanted,
  patient: Patient,
  path: string,
): SearchCriteria | Failure<'NotFound' | 'InvalidInput'> {
  const { visitTypeId, payerId, hasReferral, hasAuthorization } = wanted;
  const type = store.plan.visitTypes.find(({ id }) => id === visitTypeId);
  if (!type) return ctx.fail('NotFound');
  const parts = partsFor(type, wanted.parts as readonly Part[] | null, patient.extraMin);
  const known = new Set(store.plan.resources.map(({ id }) => id));
  const wrong = wanted.parts && faultOfParts(known, type, wanted.parts as readonly Part[]);
  if (wrong) return ctx.fail('InvalidInput', { issues: [{ path: `${path}.parts`, code: wrong }] });
  return {
    visitTypeId,
    parts,
    kind: kindOf(patient),
    channel: 'desk',
    patientId: patient.id,
    payerId,
    hasReferral,
    hasAuthorization,
  };
}

function resolveVisit(
  ctx: Ctx,
  store: ClinicStore,
  visit: AskedVisit,
  patient: Patient,
  path: string,
): Asked | Failure<'NotFound' | 'InvalidInput'> {
  const { siteId, providerId } = visit;
  const site = store.plan.sites.find(({ id }) => id === siteId);
  const provider = store.plan.resources.find(({ id, kind }) => id === providerId && kind === 'provider');
  if (!site || (providerId !== null && !provider)) return ctx.fail('NotFound');
  const criteria = criteriaFor(ctx, store, visit, patient, path);
  if (criteria instanceof Failure) return criteria;
  if (needsProvider(askedType(store, criteria)) !== (providerId !== null))
    return ctx.fail('InvalidInput', { issues: [{ path: `${path}.providerId`, code: 'provider-needed' }] });
  const start = fromWire(visit.start);
  const { date } = epochToWall(site.zone, start);
  const { beforeMin, afterMin } = store.visitType(criteria.visitTypeId);
  return { patient, criteria, siteId, providerId, start, date, timeZone: site.zone, beforeMin, afterMin };
}
