import type { SqlEntityManager } from '@mikro-orm/postgresql';
import type { CalendarVisit } from '../../exchange/visitCalendar.ts';
import { type Channel, channelOf } from '@zaguan/core/messages';
import type { AppointmentStatus } from '@zaguan/core/visits';
import { LEASED } from './handOver.sql.ts';
import type { MessageKind } from '@zaguan/core/reminders';
import type { Language } from './words.ts';

/** A visit with what a message about it needs. */
export interface MessagedVisit {
  id: string;
  status: AppointmentStatus;
  approval: string;
  startsAt: Date;
  endsAt: Date;
  timeZone: string;
  clinic: string;
  clinicPhone: string;
  siteId: string;
  /** The site as patients know it, and its street. */
  place: string;
  siteDate: string;
  language: Language;
  /** A number or an address. */
  contact: string | null;
  laneLeftOut: boolean;
  version: number;
}

const VISIT = `select a.id, a.status, a.approval, a.starts_at, a.ends_at, a.site_id, a.site_date::text, a.version, s.time_zone, s.public_name || ', ' || s.address_line as place, c.name as clinic, c.phone as clinic_phone,
    coalesce(b.language, p.language, 'en') as language,
    coalesce(b.phone, b.email, (select cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = a.patient_id order by pc.rank, cp.kind desc limit 1)) as contact,
    exists (select 1 from occupancy o join resource r on r.id = o.resource_id where o.appointment_id = a.id and r.left_out_of_messages) as lane_left_out
  from appointment a join site s on s.id = a.site_id cross join clinic c left join self_booking b on b.appointment_id = a.id left join patient p on p.id = a.patient_id`;

interface VisitRow {
  id: string;
  status: AppointmentStatus;
  approval: string;
  starts_at: string;
  ends_at: string;
  site_id: string;
  place: string;
  site_date: string;
  version: number;
  time_zone: string;
  clinic: string;
  clinic_phone: string;
  language: Language;
  contact: string | null;
  lane_left_out: boolean;
}

export async function messagedVisit(em: SqlEntityManager, id: string): Promise<MessagedVisit | null> {
  const [row] = await em.execute<VisitRow[]>(`${VISIT} where a.id = ?`, [id]);
  if (!row) return null;
  return {
    id: row.id,
    status: row.status,
    approval: row.approval,
    startsAt: new Date(row.starts_at),
    endsAt: new Date(row.ends_at),
    timeZone: row.time_zone,
    clinic: row.clinic,
    clinicPhone: row.clinic_phone,
    siteId: row.site_id,
    place: row.place,
    siteDate: row.site_date,
    language: row.language,
    contact: row.contact,
    laneLeftOut: row.lane_left_out,
    version: row.version,
  };
}

/** The row of a number or address, made if it is new. */
export async function contactPoint(em: SqlEntityManager, newId: string, contact: string): Promise<string> {
  const [row] = await em.execute<{ id: string }[]>(
    `insert into contact_point (id, kind, value) values (?, ?, ?) on conflict (kind, value) do update set value = excluded.value returning id`,
    [newId, channelOf(contact) === 'email' ? 'email' : 'phone', contact],
  );
  return row.id;
}

/** Whether the number itself said stop (or is wrong), whoever shares it: the latest word in the ledger counts. */
export async function isOptedOut(em: SqlEntityManager, contactPointId: string): Promise<boolean> {
  const [row] = await em.execute<{ event: string }[]>(
    `select event from contact_ledger where contact_point_id = ? and event in ('consented','revoked','wrong-number') order by at desc, id desc limit 1`,
    [contactPointId],
  );
  return row?.event === 'revoked' || row?.event === 'wrong-number';
}

export async function writeLedger(
  em: SqlEntityManager,
  entry: {
    id: string;
    contactPointId: string;
    event: 'consented' | 'revoked' | 'verified';
    wording: string;
    how: string;
    at: Date;
  },
): Promise<void> {
  await em.execute(
    `insert into contact_ledger (id, contact_point_id, event, purpose, wording, wording_version, how, at) values (?, ?, ?, 'visit-messages', ?, '1', ?, ?)`,
    [entry.id, entry.contactPointId, entry.event, entry.wording, entry.how, entry.at],
  );
}

export interface NewMessage {
  id: string;
  appointmentId: string | null;
  contactPointId: string | null;
  channel: Channel;
  kind: MessageKind;
  step: string | null;
  language: Language;
  body: string;
  sendAt: Date;
  notAfter: Date;
  droppedCode: string | null;
  createdAt: Date;
  verificationId?: string;
  /** The patient did something a moment ago, and this tells them what came of it. */
  answersPatient: boolean;
  /** When whoever heard nothing would come, if not at the visit's start: a visit's old time. */
  comesAt?: Date | null;
}

export async function insertMessage(em: SqlEntityManager, message: NewMessage): Promise<void> {
  await em.execute(
    `insert into message (id, appointment_id, contact_point_id, channel, kind, step, language, body, send_at, not_after, status, dropped_code, next_attempt_at, created_at, verification_id, answers_patient, comes_at)
     values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    [
      message.id,
      message.appointmentId,
      message.contactPointId,
      message.channel,
      message.kind,
      message.step,
      message.language,
      message.body,
      message.sendAt,
      message.notAfter,
      message.droppedCode ? 'dropped' : 'planned',
      message.droppedCode,
      message.sendAt,
      message.createdAt,
      message.verificationId ?? null,
      message.answersPatient,
      message.comesAt ?? null,
    ],
  );
}

/** The kind of the last message that tells what becomes of a visit; `null` if there is none. */
export async function lastToldOf(em: SqlEntityManager, appointmentId: string): Promise<string | null> {
  const [row] = await em.execute<{ kind: string }[]>(
    `select kind from message where appointment_id = ? and kind in ('confirmation','moved','must-move','cancellation','restored')
     and status not in ('withdrawn','dropped') order by seq desc limit 1`,
    [appointmentId],
  );
  return row?.kind ?? null;
}

/** Takes back what is planned for a visit. Says whether messages about it ever were planned, and whether any was sent. */
export async function withdrawPlanned(
  em: SqlEntityManager,
  appointmentId: string,
  now: Date,
): Promise<{ anyPlanned: boolean; anySent: boolean }> {
  // What is being handed over at this moment is not waited for, however slow the carrier: it counts as sent.
  await em.execute(
    `update message set status = 'withdrawn', settled_at = ? where appointment_id = ? and status = 'planned' and not ${LEASED}`,
    [now, appointmentId],
  );
  const [row] = await em.execute<{ planned: number; sent: number }[]>(
    `select count(*)::int as planned, (count(*) filter (where status in ('sent','delivered') or status = 'planned' and ${LEASED}))::int as sent from message where appointment_id = ?`,
    [appointmentId],
  );
  return { anyPlanned: row.planned > 0, anySent: row.sent > 0 };
}

/** What the number said stop to: every automated message that is still planned for it. */
export async function withdrawForNumber(em: SqlEntityManager, contactPointId: string, now: Date): Promise<void> {
  await em.execute(
    `update message set status = 'dropped', dropped_code = 'opted-out', settled_at = ? where contact_point_id = ? and status = 'planned' and kind not in ('reply','code') and not ${LEASED}`,
    [now, contactPointId],
  );
}

export interface MessageRow {
  id: string;
  kind: MessageKind;
  channel: Channel;
  step: string | null;
  body: string;
  send_at: string;
  status: 'planned' | 'sent' | 'delivered' | 'failed' | 'withdrawn' | 'dropped';
  dropped_code: string | null;
  held_code: 'quiet-hours' | null;
  fail_reason: string | null;
  settled_at: string | null;
}

export function messagesOf(em: SqlEntityManager, appointmentId: string): Promise<MessageRow[]> {
  return em.execute(
    'select id, kind, channel, step, body, send_at, status, dropped_code, held_code, fail_reason, settled_at from message where appointment_id = ? order by send_at, seq',
    [appointmentId],
  );
}

/** The visit that the last message to a number was about: what a bare "Y" answers. */
export async function lastVisitOf(em: SqlEntityManager, contactPointId: string, now: Date): Promise<string | null> {
  const [row] = await em.execute<{ appointment_id: string }[]>(
    `select m.appointment_id from message m join appointment a on a.id = m.appointment_id
     where m.contact_point_id = ? and m.status in ('sent','delivered') and m.kind in ('confirmation','reminder','restored') and a.status = 'booked' and a.starts_at > ? order by m.seq desc limit 1`,
    [contactPointId, now],
  );
  return row?.appointment_id ?? null;
}

export async function setConfirmed(em: SqlEntityManager, appointmentId: string, now: Date): Promise<void> {
  await em.execute(
    'update appointment set confirmed_at = coalesce(confirmed_at, ?), version = version + 1 where id = ?',
    [now, appointmentId],
  );
}

export async function insertInbox(
  em: SqlEntityManager,
  row: {
    id: string;
    contactPointId: string;
    channel: Channel;
    body: string;
    meaning: string;
    appointmentId: string | null;
    at: Date;
  },
): Promise<void> {
  await em.execute(
    `insert into inbox_message (id, contact_point_id, channel, body, meaning, appointment_id, received_at) values (?, ?, ?, ?, ?, ?, ?)`,
    [row.id, row.contactPointId, row.channel, row.body, row.meaning, row.appointmentId, row.at],
  );
}

/** What a calendar object about a visit says, as it stands now. */
export async function calendarOf(em: SqlEntityManager, appointmentId: string): Promise<CalendarVisit | null> {
  const [row] = await em.execute<
    {
      starts_at: string;
      ends_at: string;
      sequence: number;
      cancelled: boolean;
      clinic: string;
      phone: string;
      place: string;
      directions: string;
      language: Language;
    }[]
  >(
    `select v.*, s.phone, s.place, case v.language when 'es' then s.directions_es else s.directions_en end as directions from (
       select a.site_id, a.starts_at, a.ends_at, a.ical_sequence as sequence, a.status = 'cancelled' as cancelled, c.name as clinic, coalesce(b.language, p.language, 'en') as language
       from appointment a cross join clinic c left join self_booking b on b.appointment_id = a.id left join patient p on p.id = a.patient_id where a.id = ?) v
     join lateral (select phone, public_name || ', ' || address_line || ', ' || city || ', ' || region || ' ' || postal_code as place, directions_en, directions_es from site where id = v.site_id) s on true`,
    [appointmentId],
  );
  return row
    ? {
        id: appointmentId,
        start: new Date(row.starts_at),
        end: new Date(row.ends_at),
        sequence: row.sequence,
        cancelled: row.cancelled,
        clinic: row.clinic,
        phone: row.phone,
        place: row.place,
        directions: row.directions,
        language: row.language,
      }
    : null;
}

/** A message, kept from the dispatcher and from another receipt until the transaction ends. */
export async function messageForUpdate(
  em: SqlEntityManager,
  id: string,
): Promise<{ id: string; status: MessageRow['status']; receipt_at: string | null } | null> {
  if (!/^[0-9a-f-]{36}$/.test(id)) return null;
  const [row] = await em.execute<{ id: string; status: MessageRow['status']; receipt_at: string | null }[]>(
    'select id, status, receipt_at from message where id = ? for update',
    [id],
  );
  return row ?? null;
}

export async function settleByReceipt(
  em: SqlEntityManager,
  id: string,
  settled: { status: 'sent' | 'delivered' | 'failed'; reason: string | null; receiptAt: Date; now: Date },
): Promise<void> {
  await em.execute(
    'update message set status = ?, fail_reason = ?, receipt_at = ?, sent_at = coalesce(sent_at, ?), settled_at = ?, lease = null, lease_until = null where id = ?',
    [settled.status, settled.reason, settled.receiptAt, settled.now, settled.now, id],
  );
}
