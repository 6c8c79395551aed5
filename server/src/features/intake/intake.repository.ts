import { raw } from '@mikro-orm/postgresql';
import { findRow, findRows } from '../../platform/db/read.ts';
import { insertIfNew } from '../../platform/db/write.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import {
  AppointmentEntity,
  ClinicEntity,
  type FormResponse,
  FormResponseEntity,
  type New,
  SignedConsentEntity,
} from '../../schema/index.ts';

export type VisitResponse = Pick<FormResponse, 'id' | 'appointmentId' | 'formId' | 'answers' | 'rev' | 'status'>;

export function responsesOf(em: SqlEntityManager, ids: readonly string[]): Promise<VisitResponse[]> {
  return findRows(
    em,
    FormResponseEntity,
    { appointmentId: { $in: [...ids] } },
    { fields: ['id', 'appointmentId', 'formId', 'answers', 'rev', 'status'] },
  );
}

/** The answers to one form begin with its first saving. */
export async function beginResponse(
  em: SqlEntityManager,
  { now, ...begun }: Pick<FormResponse, 'id' | 'appointmentId' | 'formId' | 'language'> & { now: Date },
): Promise<void> {
  await insertIfNew(em, FormResponseEntity, { ...begun, startedAt: now, savedAt: now });
}

export async function saveResponse(
  em: SqlEntityManager,
  { id, now, ...saved }: Pick<FormResponse, 'id' | 'answers' | 'rev' | 'status' | 'language'> & { now: Date },
): Promise<void> {
  await em.nativeUpdate(
    FormResponseEntity,
    { id },
    {
      ...saved,
      savedAt: now,
      completedAt: saved.status === 'completed' ? raw('coalesce(completed_at, ?)', [now]) : null,
    },
  );
}

/** Says whether the document was not signed for the visit before. */
export function insertSigned(em: SqlEntityManager, row: New<typeof SignedConsentEntity>): Promise<boolean> {
  return insertIfNew(em, SignedConsentEntity, row);
}

/** A signed document with what decides who may open it. */
export async function signedPdf(
  em: SqlEntityManager,
  id: string,
): Promise<{
  pdf: Buffer;
  appointmentId: string;
  siteId: string;
  patientId: string | null;
  restricted: boolean;
} | null> {
  const row = await findRow(
    em,
    SignedConsentEntity,
    { id },
    {
      fields: ['pdf', 'appointmentId', 'appointment.siteId', 'appointment.patientId', 'appointment.patient.restricted'],
      populate: ['appointment', 'appointment.patient'],
    },
  );
  if (!row?.appointment) return null;
  const { siteId, patientId, patient } = row.appointment;
  return {
    pdf: row.pdf,
    appointmentId: row.appointmentId,
    siteId,
    patientId: patientId ?? null,
    restricted: patient?.restricted ?? false,
  };
}

/** Booked visits of a site from one date to another, by its own clock. */
export function visitsBetween(
  em: SqlEntityManager,
  siteId: string,
  from: string,
  until: string,
): Promise<{ id: string; siteDate: string }[]> {
  return findRows(
    em,
    AppointmentEntity,
    { siteId, siteDate: { $gte: from, $lte: until }, status: { $in: ['pending', 'booked', 'arrived', 'checked-in'] } },
    { fields: ['id', 'siteDate'], orderBy: { startsAt: 'asc' } },
  );
}

/** Where a visit is, as patients know it. */
export async function siteInfo(
  em: SqlEntityManager,
  appointmentId: string,
): Promise<{ clinic: string; site: string; timeZone: string } | null> {
  const visit = await findRow(
    em,
    AppointmentEntity,
    { id: appointmentId },
    { fields: ['id', 'site.publicName', 'site.timeZone'], populate: ['site'] },
  );
  const clinic = await findRow(em, ClinicEntity, {}, { fields: ['name'] });
  return visit?.site && clinic
    ? { clinic: clinic.name, site: visit.site.publicName, timeZone: visit.site.timeZone }
    : null;
}
