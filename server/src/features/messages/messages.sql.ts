import { channelOf } from '@zaguan/core/messages';
import type { CalendarVisit } from '../../exchange/visitCalendar.ts';
import { type ColumnsOf, rowOf, rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';
import type { Appointment, Clinic, Message, Site } from '../../schema/index.ts';
import { LEASED } from './handOver.sql.ts';
import type { Language } from './words.ts';

/** A visit with what a message about it needs. */
export interface MessagedVisit
  extends Pick<Appointment, 'id' | 'status' | 'approval' | 'startsAt' | 'endsAt' | 'siteId' | 'siteDate' | 'version'>,
    Pick<Site, 'timeZone'> {
  readonly clinic: Clinic['name'];
  readonly clinicPhone: Clinic['phone'];
  /** The site as patients know it, and its street. */
  readonly place: string;
  readonly language: Language;
  /** The number or address that was typed for it, unless it is a wrong one; then, or where none was, the record's first. */
  readonly contact: string | null;
  readonly laneLeftOut: boolean;
}

type VisitRow = Pick<
  ColumnsOf<Appointment>,
  'id' | 'status' | 'approval' | 'startsAt' | 'endsAt' | 'siteId' | 'siteDate' | 'version'
> &
  Pick<ColumnsOf<Site>, 'timeZone'> &
  Pick<MessagedVisit, 'place' | 'clinic' | 'language' | 'contact'> & {
    readonly clinicPhone: Clinic['phone'];
    readonly laneLeftOut: boolean;
  };

/** The desk noted that somebody else has it, and nobody agreed to messages there since. */
const isWrong = (contactPointId: string) =>
  `coalesce((select l.event = 'wrong-number' from contact_ledger l where l.contact_point_id = ${contactPointId} and l.purpose <> 'recalls' and l.event in ('consented','revoked','wrong-number') order by l.at desc, l.id desc limit 1), false)`;

const VISIT = statement<{ id: string }, VisitRow>(
  'the person is the patient’s record or what was typed; whether a lane is left out is looked up',
  `select a.id, a.status, a.approval, a.starts_at, a.ends_at, a.site_id, a.site_date::text, a.version, s.time_zone, s.public_name || ', ' || s.address_line as place, c.name as clinic, c.phone as clinic_phone,
     coalesce(b.language, p.language, 'en') as language,
     coalesce(
       (select t.value from (values ('phone', b.phone), ('email', b.email)) t(kind, value) left join contact_point w on w.kind = t.kind and w.value = t.value
        where t.value is not null and not ${isWrong('w.id')} order by t.kind desc limit 1),
       (select cp.value from patient_contact pc join contact_point cp on cp.id = pc.contact_point_id where pc.patient_id = a.patient_id and not ${isWrong('cp.id')} order by pc.rank, cp.kind desc limit 1),
       b.phone, b.email) as contact,
     exists (select 1 from occupancy o join resource r on r.id = o.resource_id where o.appointment_id = a.id and r.left_out_of_messages) as lane_left_out
   from appointment a join site s on s.id = a.site_id cross join clinic c left join self_booking b on b.appointment_id = a.id left join patient p on p.id = a.patient_id where a.id = :id`,
);

export async function messagedVisit(em: SqlEntityManager, id: string): Promise<MessagedVisit | null> {
  const row = await rowOf(em, VISIT, { id });
  return (
    row && {
      id: row.id,
      status: row.status,
      approval: row.approval,
      startsAt: new Date(row.startsAt),
      endsAt: new Date(row.endsAt),
      timeZone: row.timeZone,
      clinic: row.clinic,
      clinicPhone: row.clinicPhone,
      siteId: row.siteId,
      place: row.place,
      siteDate: row.siteDate,
      language: row.language,
      contact: row.contact,
      laneLeftOut: row.laneLeftOut,
      version: row.version,
    }
  );
}

/** Where a message goes, and whether it may: the number or address itself counts, whoever shares it. */
export interface Reach {
  readonly contactPointId: string;
  /** The latest word in its ledger: it said stop, or is wrong. */
  readonly optedOut: boolean;
}

const REACH = statement<{ id: string; kind: string; value: string }, { id: string; optedOut: boolean }>(
  'inserted unless it is there, with its id and its ledger’s latest word either way, in one trip',
  `insert into contact_point (id, kind, value) values (:id, :kind, :value) on conflict (kind, value) do update set value = excluded.value
   returning id, opted_out(id, false) as opted_out`,
);

const kindOf = (contact: string) => (channelOf(contact) === 'email' ? 'email' : 'phone');

/** The row of a number or address, made if it is new. */
export async function reachOf(em: SqlEntityManager, newId: string, contact: string): Promise<Reach> {
  const [{ id, optedOut }] = await rowsOf(em, REACH, { id: newId, kind: kindOf(contact), value: contact });
  return { contactPointId: id, optedOut };
}

const OPTED_OUT = statement<{ kind: string; value: string }, { optedOut: boolean }>(
  'the ledger’s latest word about a number or address',
  `select opted_out(id, false) as opted_out from contact_point where kind = :kind and value = :value`,
);

const IS_OPTED_OUT = statement<{ contactPointId: string; forRecalls: boolean }, { optedOut: boolean }>(
  'the ledger’s latest word, by the rule that the database keeps',
  'select opted_out(:contactPointId::uuid, :forRecalls::boolean) as opted_out',
);

/** Whether the number itself said stop (or is wrong), whoever shares it: the latest word in its ledger counts. */
export async function isOptedOut(
  em: SqlEntityManager,
  contactPointId: string,
  { forRecalls }: { forRecalls: boolean },
): Promise<boolean> {
  return (await rowOf(em, IS_OPTED_OUT, { contactPointId, forRecalls }))?.optedOut ?? false;
}

/** Whether a number or address asked for no more messages. */
export async function hasOptedOut(em: SqlEntityManager, contact: string): Promise<boolean> {
  const row = await rowOf(em, OPTED_OUT, { kind: kindOf(contact), value: contact });
  return row?.optedOut ?? false;
}

const WITHDRAW = statement<{ now: Date; appointmentId: string }, never>(
  'by the database’s clock',
  `update message set status = 'withdrawn', settled_at = :now where appointment_id = :appointmentId and status = 'planned' and not ${LEASED}`,
);
const PLANNED_AND_SENT = statement<{ appointmentId: string }, { planned: number; sent: number }>(
  'two counts, by the database’s clock',
  `select count(*)::int as planned, (count(*) filter (where status in ('sent','delivered') or status = 'planned' and ${LEASED}))::int as sent from message where appointment_id = :appointmentId`,
);

const WITHDRAW_REMINDERS = statement<{ now: Date; appointmentId: string }, never>(
  'by the database’s clock',
  `update message set status = 'withdrawn', settled_at = :now where appointment_id = :appointmentId and kind = 'reminder' and status = 'planned' and not ${LEASED}`,
);

/** Takes back the reminders that are planned for a visit, and nothing else that is still to be told. */
export async function withdrawReminders(em: SqlEntityManager, appointmentId: string, now: Date): Promise<void> {
  await rowsOf(em, WITHDRAW_REMINDERS, { now, appointmentId });
}

const WITHDRAW_DELAYS = statement<{ now: Date; appointmentId: string }, never>(
  'by the database’s clock',
  `update message set status = 'withdrawn', settled_at = :now where appointment_id = :appointmentId and kind in ('delay','on-time') and status = 'planned' and not ${LEASED}`,
);
const DELAY_TOLD = statement<{ appointmentId: string }, { kind: 'delay' | 'on-time' }>(
  'what is being handed over at this moment counts as told, by the database’s clock',
  `select kind from message where appointment_id = :appointmentId and kind in ('delay','on-time') and (status in ('sent','delivered') or status = 'planned' and ${LEASED}) order by created_at desc, seq desc limit 1`,
);

/**
 * Takes back what is planned for a visit about a delay, and nothing else.
 *
 * @returns what the patient was told of it last; `null`: nothing
 */
export async function withdrawDelays(
  em: SqlEntityManager,
  appointmentId: string,
  now: Date,
): Promise<'delay' | 'on-time' | null> {
  await rowsOf(em, WITHDRAW_DELAYS, { now, appointmentId });
  return (await rowOf(em, DELAY_TOLD, { appointmentId }))?.kind ?? null;
}

/** Takes back what is planned for a visit. Says whether messages about it ever were planned, and whether any was sent. */
export async function withdrawPlanned(
  em: SqlEntityManager,
  appointmentId: string,
  now: Date,
): Promise<{ anyPlanned: boolean; anySent: boolean }> {
  // What is being handed over at this moment is not waited for, however slow the carrier: it counts as sent.
  await rowsOf(em, WITHDRAW, { now, appointmentId });
  return messagesSoFar(em, appointmentId);
}

/** Whether messages about a visit ever were planned, and whether any was sent. */
export async function messagesSoFar(
  em: SqlEntityManager,
  appointmentId: string,
): Promise<{ anyPlanned: boolean; anySent: boolean }> {
  const counts = await rowOf(em, PLANNED_AND_SENT, { appointmentId });
  return { anyPlanned: (counts?.planned ?? 0) > 0, anySent: (counts?.sent ?? 0) > 0 };
}

const PLACE = statement<{ siteId: string }, Pick<MessagedVisit, 'siteId' | 'timeZone' | 'place'>>(
  'the place is made of two columns, as in the visit’s own statement',
  `select id as site_id, time_zone, public_name || ', ' || address_line as place from site where id = :siteId`,
);

/** A site as a message about a visit names it. */
export async function placeOf(
  em: SqlEntityManager,
  siteId: string,
): Promise<Pick<MessagedVisit, 'siteId' | 'timeZone' | 'place'> | null> {
  return rowOf(em, PLACE, { siteId });
}

const WITHDRAW_NUMBER = statement<{ now: Date; contactPointId: string; onlyInvitations: boolean }, never>(
  'by the database’s clock',
  `update message set status = 'dropped', dropped_code = 'opted-out', settled_at = :now where contact_point_id = :contactPointId and status = 'planned' and kind not in ('reply','code') and (kind = 'invitation' or not :onlyInvitations::boolean) and not ${LEASED}`,
);

/** What the number said stop to: every automated message that is still planned for it. */
export async function withdrawForNumber(
  em: SqlEntityManager,
  contactPointId: string,
  now: Date,
  { onlyInvitations }: { onlyInvitations: boolean },
): Promise<void> {
  await rowsOf(em, WITHDRAW_NUMBER, { now, contactPointId, onlyInvitations });
}

type CalendarRow = Pick<ColumnsOf<Appointment>, 'startsAt' | 'endsAt'> &
  Pick<CalendarVisit, 'sequence' | 'cancelled' | 'clinic' | 'phone' | 'place' | 'directions' | 'language'>;

const CALENDAR = statement<{ id: string }, CalendarRow>(
  'the words are picked by the language of the patient’s record or of what was typed',
  `select v.*, s.phone, s.place, case v.language when 'es' then s.directions_es else s.directions_en end as directions from (
     select a.site_id, a.starts_at, a.ends_at, a.ical_sequence as sequence, a.status = 'cancelled' as cancelled, c.name as clinic, coalesce(b.language, p.language, 'en') as language
     from appointment a cross join clinic c left join self_booking b on b.appointment_id = a.id left join patient p on p.id = a.patient_id where a.id = :id) v
   join lateral (select phone, public_name || ', ' || address_line || ', ' || city || ', ' || region || ' ' || postal_code as place, directions_en, directions_es from site where id = v.site_id) s on true`,
);

/** What a calendar object about a visit says, as it stands now. */
export async function calendarOf(em: SqlEntityManager, appointmentId: string): Promise<CalendarVisit | null> {
  const row = await rowOf(em, CALENDAR, { id: appointmentId });
  return (
    row && {
      id: appointmentId,
      start: new Date(row.startsAt),
      end: new Date(row.endsAt),
      sequence: row.sequence,
      cancelled: row.cancelled,
      clinic: row.clinic,
      phone: row.phone,
      place: row.place,
      directions: row.directions,
      language: row.language,
    }
  );
}

type ReceiptRow = Pick<ColumnsOf<Message>, 'id' | 'status' | 'receiptAt'>;

const FOR_UPDATE = statement<{ id: string }, ReceiptRow>(
  'a lock',
  'select id, status, receipt_at from message where id = :id for update',
);

/**
 * A message, kept from the dispatcher and from another receipt until the transaction ends.
 *
 * @param id as the carrier says it: it may be anything
 */
export async function messageForUpdate(em: SqlEntityManager, id: string): Promise<ReceiptRow | null> {
  return /^[0-9a-f-]{36}$/.test(id) ? rowOf(em, FOR_UPDATE, { id }) : null;
}
