import type { UndoAnswer } from '../../platform/undo/undo.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import { createHash } from 'node:crypto';
import type { InputOf, OutputOf } from '@zaguan/contracts';
import type {
  createPerson,
  discardBooking,
  discardMany,
  linkPerson,
  listIdentityReview,
} from '@zaguan/contracts/identityReview';
import { findCandidates, groupBySource, type Identity } from '@zaguan/core/matching';
import { fullName } from '@zaguan/core/patients';
import type { AppointmentStatus } from '@zaguan/core/visits';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { appointmentForUpdate, cancelAppointment, restoreVisit, updateAppointment } from '../booking/index.ts';
import { indexNamesOf } from '../patientSearch/index.ts';
import {
  insertPatient,
  nextRecordNumbers,
  patientExists,
  type RecordRow,
  recordsLikeEach,
  takeBackPatient,
} from '../people/index.ts';
import { addContact, forgetVerifiedFor, recordVerifiedFor } from './identityReview.repository.ts';
import { type WaitingRow, waitingRow, waitingRows, waitingTraces } from './identityReview.sql.ts';

function identityOf(row: WaitingRow): Identity {
  return { givenName: row.givenName, familyName: row.familyName, birthDate: row.birthDate, contacts: [row.contact] };
}

const PAGE_SIZE = 20;

export async function listWaiting(
  ctx: Ctx,
  { page }: InputOf<typeof listIdentityReview>,
): Promise<OutputOf<typeof listIdentityReview>> {
  const traces = await waitingTraces(ctx.em);
  const sources = groupBySource(traces);
  const rows = await waitingRows(ctx.em, page, PAGE_SIZE);
  const records = await recordsLikeEach(ctx.em, rows.map(identityOf));
  return {
    waiting: rows.map((row, i) => toWaiting(ctx, row, records[i], sourceOf(sources.get(row.id)))),
    total: traces.length,
    pageSize: PAGE_SIZE,
    sources: [...new Set(sources.values())].map((first) => ({
      source: sourceOf(first) ?? '',
      bookings: [...sources.values()].filter((each) => each === first).length,
    })),
    unreadable: [],
  };
}

/** A name for a group that tells nothing of whose it is: it stands in an address. */
function sourceOf(first: string | undefined): string | null {
  return first === undefined ? null : createHash('sha256').update(`source:${first}`).digest('hex').slice(0, 16);
}

function toWaiting(
  ctx: Ctx,
  row: WaitingRow,
  records: readonly RecordRow[],
  source: string | null,
): OutputOf<typeof listIdentityReview>['waiting'][number] {
  const candidates = findCandidates(identityOf(row), records);
  ctx.viewed(candidates.map((candidate) => candidate.patientId));
  return {
    appointmentId: row.id,
    version: row.version,
    siteName: row.site,
    timeZone: row.timeZone,
    start: new Date(row.startsAt).toISOString(),
    visitType: row.visitType,
    provider: row.provider,
    kind: row.patientKind,
    givenName: row.givenName,
    familyName: row.familyName,
    birthDate: row.birthDate,
    contact: row.contact,
    reason: row.reason,
    bookedAt: new Date(row.bookedAt).toISOString(),
    source,
    candidates: candidates.flatMap(({ patientId, verdict, fields }) => {
      const record = records.find((each) => each.patientId === patientId);
      return record
        ? [
            {
              patientId,
              recordNumber: record.recordNumber,
              name: fullName(record.givenName, record.familyName),
              birthDate: record.birthDate,
              contact: record.contact,
              status: record.status,
              verdict,
              fields,
            },
          ]
        : [];
    }),
  };
}

/** The booking to decide on, kept from a second decision at the same time. */
async function open(ctx: Ctx, id: string, version: number) {
  const appointment = await appointmentForUpdate(ctx.em, id);
  if (!appointment) return ctx.fail('NotFound');
  const row = await waitingRow(ctx.em, id);
  if (!row) return ctx.fail('DecidedAlready');
  if (appointment.version !== version) return ctx.fail('ChangedMeanwhile', { facts: { version: appointment.version } });
  return { appointment, row };
}

async function settle(
  ctx: Ctx,
  opened: Exclude<Awaited<ReturnType<typeof open>>, Failure>,
  patientId: string,
  created: boolean,
) {
  const { appointment, row } = opened;
  const changed = await updateAppointment(ctx.em, appointment, { patientId, identity: 'sure' }, ctx.now);
  await addContact(ctx.em, patientId, row.contact);
  await recordVerifiedFor(ctx.em, ctx.newId(), patientId, row.contact, ctx.now);
  ctx.emit({ type: 'visit-changed', siteId: row.siteId, date: row.siteDate });
  ctx.wrote({
    subjects: [
      { kind: 'appointment', id: row.id },
      { kind: 'patient', id: patientId },
    ],
    before: { identity: 'unknown' },
    after: { identity: 'sure', created },
  });
  return ctx.undoable({
    command: 'identityReview.unlink',
    input: { id: row.id, version: changed.version, created, contact: row.contact },
    label: { what: created ? 'person-created' : 'person-linked' },
  });
}

export async function link(
  ctx: Ctx,
  { id, patientId, version }: InputOf<typeof linkPerson>,
): Promise<AnswerOf<typeof linkPerson>> {
  const opened = await open(ctx, id, version);
  if (opened instanceof Failure) return opened;
  if (!(await patientExists(ctx.em, patientId))) return ctx.fail('NotFound');
  return { undo: await settle(ctx, opened, patientId, false) };
}

/** Always a fresh record; never written over another one. */
export async function create(
  ctx: Ctx,
  { id, version }: InputOf<typeof createPerson>,
): Promise<AnswerOf<typeof createPerson>> {
  const opened = await open(ctx, id, version);
  if (opened instanceof Failure) return opened;
  const patientId = ctx.newId();
  const [recordNumber] = await nextRecordNumbers(ctx.em);
  const { givenName, familyName, birthDate, language } = opened.row;
  const typed = { givenName, familyName, birthDate, language };
  await insertPatient(ctx.em, { id: patientId, recordNumber, ...typed, createdAt: ctx.now });
  await indexNamesOf(ctx.em, patientId);
  return { recordNumber, undo: await settle(ctx, opened, patientId, true) };
}

export async function discard(
  ctx: Ctx,
  { id, version }: InputOf<typeof discardBooking>,
): Promise<AnswerOf<typeof discardBooking>> {
  const opened = await open(ctx, id, version);
  if (opened instanceof Failure) return opened;
  const result = await cancelAppointment(ctx, opened.appointment, { reason: 'not-genuine', note: '' });
  return result instanceof Failure ? result : { undo: result.undo };
}

/** All of one source, or none: a flood is decided on once. */
export async function discardSource(
  ctx: Ctx,
  { source, bookings }: InputOf<typeof discardMany>,
): Promise<AnswerOf<typeof discardMany>> {
  const sources = groupBySource(await waitingTraces(ctx.em));
  const ids = [...sources].filter(([, first]) => sourceOf(first) === source).map(([id]) => id);
  if (!ids.length) return ctx.fail('NotFound');
  if (ids.length !== bookings) return ctx.fail('ChangedMeanwhile', { facts: { bookings: ids.length } });
  const discarded: { id: string; to: string; version: number }[] = [];
  // In the order of their ids, so that two who discard wait for each other and never in a circle.
  for (const id of ids.sort()) {
    const appointment = await appointmentForUpdate(ctx.em, id);
    if (!appointment) return ctx.fail('NotFound');
    const before = appointment.status;
    const result = await cancelAppointment(ctx, appointment, { reason: 'not-genuine', note: '' });
    if (result instanceof Failure) return result;
    discarded.push({ id, to: before, version: result.version });
  }
  const undo = await ctx.undoable({
    command: 'identityReview.restoreMany',
    input: { discarded },
    label: { what: 'cancel' },
  });
  return { discarded: discarded.length, undo };
}

/** The inverse of discarding many: each takes its time again, if all of them still can. */
export async function restoreMany(
  ctx: Ctx,
  { discarded }: { discarded: readonly { id: string; to: AppointmentStatus; version: number }[] },
): Promise<UndoAnswer> {
  for (const each of discarded) {
    const result = await restoreVisit(ctx, each);
    if (result instanceof Failure) return result;
  }
  return {};
}

/** The inverse of linking and creating: nobody's again, and a record made here goes if nothing else hangs on it. */
export async function unlink(
  ctx: Ctx,
  { id, version, created, contact }: { id: string; version: number; created: boolean; contact: string },
): Promise<UndoAnswer> {
  const appointment = await appointmentForUpdate(ctx.em, id);
  if (!appointment?.patientId) return ctx.fail('NotFound');
  if (appointment.version !== version) return ctx.fail('ChangedMeanwhile', { facts: { version: appointment.version } });
  const { patientId } = appointment;
  await updateAppointment(ctx.em, appointment, { patientId: null, identity: 'unknown' }, ctx.now);
  await forgetVerifiedFor(ctx.em, patientId, contact);
  if (created) await takeBackPatient(ctx.em, patientId);
  ctx.emit({ type: 'visit-changed', siteId: appointment.siteId, date: appointment.siteDate });
  ctx.wrote({
    subjects: [
      { kind: 'appointment', id },
      { kind: 'patient', id: patientId },
    ],
    before: { identity: 'sure' },
    after: { identity: 'unknown' },
  });
  return {};
}
