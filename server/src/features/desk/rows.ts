import type { BookingRequestRow, Unplaced } from '@zaguan/contracts/desk';
import { fullName, restrictedName } from '@zaguan/core/patients';
import { epochToWall } from '@zaguan/core/time';
import { type Ctx, includesSite, nowMinute, sitesFor } from '../../platform/endpoint/context.ts';
import { siteRows } from '../clinic/index.ts';
import { mayOpenRecord } from '../restricted/index.ts';
import { type RequestFilter, requestRows, unplacedRows } from './lists.repository.ts';

interface Named {
  readonly id: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly restricted: boolean;
}

/** How a list names somebody: in full, or by initials where the record is restricted to the caller. */
async function nameFor(ctx: Ctx, patient: Named): Promise<string> {
  return (await mayOpenRecord(ctx, patient))
    ? fullName(patient.givenName, patient.familyName)
    : restrictedName(patient.givenName, patient.familyName);
}

/** Requests as they are shown, by due date. */
export async function requestsToShow(ctx: Ctx, filter: RequestFilter): Promise<BookingRequestRow[]> {
  const [main] = await siteRows(ctx.em);
  const today = epochToWall(main?.timeZone ?? 'UTC', nowMinute(ctx)).date;
  const rows = await requestRows(ctx.em, filter);
  ctx.viewed(rows.map(({ patientId }) => patientId));
  const shown: BookingRequestRow[] = [];
  for (const row of rows)
    shown.push({
      id: row.id,
      version: row.version,
      patientId: row.patientId,
      patient: await nameFor(ctx, row.patient),
      visitTypeId: row.visitTypeId,
      visitType: row.visitType.name,
      siteId: row.siteId,
      siteName: row.site?.name ?? null,
      providerId: row.providerId,
      provider: row.provider?.shortName ?? null,
      fromDate: row.fromDate,
      dueDate: row.dueDate,
      overdue: row.state === 'open' && row.dueDate < today,
      reason: row.reason,
      urgency: row.urgency,
      state: row.state,
      askedBy: row.askedByAccount.name,
      askedAt: row.askedAt.toISOString(),
      visit:
        row.state !== 'open' && row.appointment ? { id: row.appointment.id, date: row.appointment.siteDate } : null,
    });
  return shown;
}

/** What lies on the Bench as it is shown, the oldest first; of other sites, nothing. */
export async function unplacedToShow(ctx: Ctx, patientId: string | null): Promise<Unplaced[]> {
  const sites = sitesFor(ctx, 'appointment.book');
  const rows = (await unplacedRows(ctx.em, patientId)).filter(
    ({ siteId }) => siteId === null || includesSite(sites, siteId),
  );
  ctx.viewed(rows.map(({ patientId }) => patientId));
  const zones = new Map((await siteRows(ctx.em)).map(({ id, timeZone }) => [id, timeZone]));
  const shown: Unplaced[] = [];
  for (const row of rows) {
    const { appointment } = row;
    shown.push({
      id: row.id,
      version: row.version,
      patientId: row.patientId,
      patient: await nameFor(ctx, row.patient),
      visitTypeId: row.visitTypeId,
      visitType: row.visitType.name,
      parts: row.parts as Unplaced['parts'],
      siteId: row.siteId,
      siteName: row.site?.name ?? null,
      providerId: row.providerId,
      provider: row.provider?.shortName ?? null,
      keeps: appointment && {
        id: appointment.id,
        version: appointment.version,
        date: appointment.siteDate,
        start: appointment.startsAt.toISOString(),
        timeZone: zones.get(appointment.siteId) ?? 'UTC',
      },
      groupId: row.groupId,
      requestId: row.requestId,
      ownerId: row.ownerId,
      owner: row.owner?.name ?? null,
      reason: row.reasonText,
      note: row.note,
      since: row.since.toISOString(),
    });
  }
  return shown;
}
