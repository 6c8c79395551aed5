import type { InputOf } from '@zaguan/contracts';
import type { ContextVisit, contextOfPatient as contract, DeskContext } from '@zaguan/contracts/desk';
import { ageOn, fullName } from '@zaguan/core/patients';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { Patient } from '../../schema/index.ts';
import { siteRows } from '../clinic/index.ts';
import { firstPhone, householdOf } from '../people/index.ts';
import { dueRecallsOf } from '../recalls/index.ts';
import { mayOpenRecord } from '../restricted/index.ts';
import { openWishes, patientsToBook } from './desk.repository.ts';
import { kindOf } from './resolve.ts';
import { type ContextVisitRow, contextVisits } from './desk.sql.ts';
import { whoMayBook } from './mayBookFor.ts';
import { requestsToShow, unplacedToShow } from './rows.ts';
import { toWishRow } from './wishes.ts';

/** How far back visits matter when somebody books. */
const YEARS_BACK_MS = 3 * 365 * 86_400_000;
const MAX_PAST = 6;

/** What matters when a patient is booked. */
export async function contextOfPatient(ctx: Ctx, { id }: InputOf<typeof contract>): Promise<AnswerOf<typeof contract>> {
  const [patient] = await patientsToBook(ctx.em, [id], false);
  if (!patient) return ctx.fail('NotFound');
  if (!(await mayOpenRecord(ctx, patient))) return ctx.fail('NotAllowed');
  ctx.viewed([id]);
  const sites = await siteRows(ctx.em);
  const home = sites.find((site) => site.id === patient.homeSiteId) ?? sites[0];
  const today = epochToWall(home.timeZone, nowMinute(ctx)).date;
  const family = await familyOf(ctx, patient, home);
  const from = new Date(ctx.now.getTime() - YEARS_BACK_MS);
  const all = await contextVisits(ctx.em, [id, ...family.map(({ member }) => member.id)], ctx.now, from);
  const own = all.filter((visit) => visit.patientId === id);
  const isComing = (visit: ContextVisitRow) => new Date(visit.startsAt) > ctx.now;
  const past = own.filter((visit) => !isComing(visit)).reverse();
  const { isMinor, mayBook } = await whoMayBook(ctx, patient, home);
  const context: DeskContext = {
    patient: {
      ...{ id, birthDate: patient.birthDate, recordNumber: patient.recordNumber, status: patient.status },
      name: fullName(patient.givenName, patient.familyName),
      age: ageOn(patient.birthDate, today),
      kind: kindOf(patient),
      phoneEnd: (await firstPhone(ctx.em, id))?.slice(-4) ?? null,
      ...{ homeSiteId: patient.homeSiteId, homeProviderId: patient.homeProviderId },
      ...{ alert: patient.alert, staffNotes: patient.staffNotes, interpreter: patient.interpreter },
      ...{ access: [...patient.access], extraMin: patient.extraMin },
      isMinor,
      payerId: past.find(({ payerId }) => payerId !== null)?.payerId ?? null,
    },
    coming: own.filter(isComing).map(toVisit),
    past: past
      .filter(({ status }) => status !== 'noshow')
      .slice(0, MAX_PAST)
      .map(toVisit),
    missed: past.filter(({ status }) => status === 'noshow').length,
    recalls: await dueRecallsOf(ctx, id, today),
    requests: await requestsToShow(ctx, { states: ['open'], patientId: id }),
    bench: await unplacedToShow(ctx, id),
    household: family.map(({ member, mayBook: guardians }) => {
      const next = all.find((visit) => visit.patientId === member.id && isComing(visit));
      return {
        mayBook: guardians,
        id: member.id,
        name: fullName(member.givenName, member.familyName),
        age: ageOn(member.birthDate, today),
        kind: kindOf(member),
        next: next ? toVisit(next) : null,
      };
    }),
    mayBook,
    wishes: (await openWishes(ctx.em, { patientId: id })).map(toWishRow),
  };
  return { context };
}

interface Relative {
  readonly member: Patient;
  /** Who books for them, where they are not of age. */
  readonly mayBook: { id: string; name: string }[];
}

/** Those of the household who can be booked, and whom the caller may see. */
async function familyOf(
  ctx: Ctx,
  { id, householdId }: Patient,
  home: Parameters<typeof whoMayBook>[2],
): Promise<Relative[]> {
  if (!householdId) return [];
  const family: Relative[] = [];
  for (const member of await householdOf(ctx.em, householdId)) {
    const bookable = member.status !== 'archived' && member.status !== 'deceased';
    if (member.id === id || !bookable || !(await mayOpenRecord(ctx, member))) continue;
    const { isMinor, mayBook } = await whoMayBook(ctx, member, home);
    family.push({ member, mayBook: isMinor ? mayBook.map((each) => ({ id: each.id, name: each.name })) : [] });
  }
  return family;
}

function toVisit(row: ContextVisitRow): ContextVisit {
  return {
    id: row.id,
    date: row.siteDate,
    start: new Date(row.startsAt).toISOString(),
    timeZone: row.timeZone,
    siteName: row.siteName,
    visitTypeId: row.visitTypeId,
    visitType: row.visitType,
    provider: row.provider,
    status: row.status,
  };
}
