import { planReminders, DEFAULT_QUIET_HOURS, DEFAULT_REMINDER_STEPS } from '@zaguan/core/reminders';
import { type Language, writeMessage } from '@zaguan/server/features/messages/words';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf, makeRandom } from '../random.ts';
import { insertRows, type Row } from '../rows.ts';

/** As long as links are here: `http://127.0.0.1:4100/v/` and a token. */
const LINK_LENGTH = 40;
const SEED = 20_261_201;
/** Messages of the last days only: what a desk still asks about. */
const DAYS_BACK = 7;
/** Numbers that said stop, out of a thousand. */
const STOPPED = 12;
/** Texts that could not be delivered, as a share. */
const FAILED = 0.004;

interface VisitRow {
  id: string;
  starts_at: Date;
  ends_at: Date;
  created_at: Date;
  time_zone: string;
  site_date: string;
  clinic: string;
  language: Language;
  contact_point_id: string;
  contact: string;
}

/**
 * The messages about recent and coming visits, as the rules planned them when each was booked: confirmations and
 * reminders that went out, those that wait, and those that were dropped, with the rule.
 */
export async function loadOutbox(orm: Orm, now: Date): Promise<void> {
  const db = orm.em.getConnection();
  const points = (await db.execute(`select id from contact_point where kind = 'phone' order by id`)) as {
    id: string;
  }[];
  const random = makeRandom(SEED);
  const stopped = new Set(points.filter(() => random.int(0, 999) < STOPPED).map(({ id }) => id));
  const long = new Date(now.getTime() - 60 * 86_400_000).toISOString();
  await insertRows(
    orm,
    'contact_ledger',
    [...stopped].map((id) => ({
      id: idOf(`stopped ${id}`),
      contact_point_id: id,
      event: 'revoked',
      purpose: 'visit-messages',
      wording: 'STOP',
      wording_version: '1',
      how: 'text-message',
      at: long,
    })),
  );
  const visits = (await db.execute(
    `select a.id, a.site_date::text, a.starts_at, a.ends_at, a.created_at, s.time_zone, c.name as clinic, p.language, pc.contact_point_id, cp.value as contact
     from appointment a join site s on s.id = a.site_id cross join clinic c join patient p on p.id = a.patient_id
     join patient_contact pc on pc.patient_id = p.id and pc.rank = 1 join contact_point cp on cp.id = pc.contact_point_id
     where a.status not in ('cancelled','entered-in-error') and a.identity = 'sure' and a.starts_at > ?
       and not exists (select from occupancy o join resource r on r.id = o.resource_id where o.appointment_id = a.id and r.left_out_of_messages)
     order by a.starts_at, a.id`,
    [new Date(now.getTime() - DAYS_BACK * 86_400_000)],
  )) as VisitRow[];
  const rows: Row[] = [];
  for (const raw of visits) {
    const visit = {
      ...raw,
      startsAt: new Date(raw.starts_at),
      endsAt: new Date(raw.ends_at),
      createdAt: new Date(raw.created_at),
      timeZone: raw.time_zone,
      optedOut: stopped.has(raw.contact_point_id),
    };
    const booked = Math.ceil(visit.createdAt.getTime() / 60_000);
    if (!visit.optedOut)
      rows.push(
        messageRow(visit, 'confirmation', null, visit.createdAt, visit.endsAt, null, now, random.chance(FAILED)),
      );
    for (const each of planReminders(DEFAULT_REMINDER_STEPS, {
      now: booked,
      start: visit.startsAt.getTime() / 60_000,
      siteZone: visit.timeZone,
      zones: [visit.timeZone],
      quiet: DEFAULT_QUIET_HOURS,
      status: 'booked',
      reachable: true,
      optedOut: visit.optedOut,
      laneLeftOut: false,
      others: [booked],
    })) {
      const at = new Date((each.outcome === 'planned' ? each.sendAt : each.wouldBe) * 60_000);
      const code = each.outcome === 'dropped' ? each.code : null;
      rows.push(messageRow(visit, 'reminder', each.step, at, visit.startsAt, code, now, random.chance(FAILED)));
    }
  }
  await insertRows(orm, 'message', rows, MESSAGE);
}

const MESSAGE =
  'id uuid, appointment_id uuid, visit_date date, contact_point_id uuid, channel text, kind text, step text, language text, body text, address text, send_at timestamptz, not_after timestamptz, status text, dropped_code text, fail_reason text, attempts integer, next_attempt_at timestamptz, sent_at timestamptz, settled_at timestamptz, receipt_at timestamptz, handled_at timestamptz, created_at timestamptz';

/** Steps of delivery, minutes after a message was due. */
const SENT_AFTER_MS = 1500;
const RECEIPT_AFTER_MS = 6000;
const OPEN_MS = 5 * 3_600_000;

function messageRow(
  visit: {
    id: string;
    site_date: string;
    contact_point_id: string;
    contact: string;
    language: Language;
    createdAt: Date;
    clinic: string;
    startsAt: Date;
    timeZone: string;
  },
  kind: 'confirmation' | 'reminder',
  step: string | null,
  sendAt: Date,
  notAfter: Date,
  droppedCode: string | null,
  now: Date,
  failed: boolean,
): Row {
  const due = sendAt <= now;
  const status = droppedCode ? 'dropped' : !due ? 'planned' : failed ? 'failed' : 'delivered';
  const handed = due && !droppedCode;
  const sent = handed ? new Date(sendAt.getTime() + SENT_AFTER_MS).toISOString() : null;
  const told = handed ? new Date(sendAt.getTime() + RECEIPT_AFTER_MS).toISOString() : null;
  return {
    id: idOf(`message ${kind} ${step} ${visit.id}`),
    appointment_id: visit.id,
    visit_date: visit.site_date,
    contact_point_id: visit.contact_point_id,
    channel: 'sms',
    kind,
    step,
    language: visit.language,
    body: writeMessage(kind, visit.language, { ...visit, linkLength: LINK_LENGTH }),
    address: handed ? visit.contact : null,
    send_at: sendAt.toISOString(),
    not_after: notAfter.toISOString(),
    status,
    dropped_code: droppedCode,
    fail_reason: status === 'failed' ? 'number-unreachable' : null,
    attempts: handed ? 1 : 0,
    next_attempt_at: sendAt.toISOString(),
    sent_at: sent,
    settled_at: told,
    receipt_at: told,
    // What failed some hours ago has been dealt with.
    handled_at: status === 'failed' && now.getTime() - sendAt.getTime() > OPEN_MS ? told : null,
    created_at: visit.createdAt.toISOString(),
  };
}
