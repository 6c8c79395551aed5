import { rowsOf, statement } from '../../platform/db/statement.ts';
import type { SqlEntityManager } from '../../platform/endpoint/types.ts';

const OWN_TABLES = 'the simulated carriers’ tables are outside the clinic’s schema and have no entities';

export interface SimulatedText {
  readonly id: string;
  readonly direction: 'to-patient' | 'from-patient';
  readonly number: string;
  readonly body: string;
  readonly at: string;
}

const TEXTS = statement<Record<never, never>, SimulatedText>(
  OWN_TABLES,
  'select id, direction, number, body, at from simulated.sms order by seq desc limit 500',
);

/** Everything on the simulated phones, newest first. */
export function simulatedTexts(em: SqlEntityManager): Promise<SimulatedText[]> {
  return rowsOf(em, TEXTS, {});
}

export interface SimulatedMailRow {
  readonly id: string;
  readonly direction: 'to-patient' | 'from-patient';
  readonly address: string;
  readonly subject: string;
  readonly body: string;
  readonly calendar: boolean;
  readonly at: string;
}

const MAILS = statement<Record<never, never>, SimulatedMailRow>(
  OWN_TABLES,
  `select id, 'to-patient' as direction, address, subject, body, calendar is not null as calendar, at from simulated.mail
   union all select 'back ' || id, 'from-patient', address, '', body, false, at from simulated.mail_back where body <> ''
   order by at desc limit 500`,
);

/** Everything in the simulated mailboxes, newest first: what came, and what was answered from there. */
export function simulatedMails(em: SqlEntityManager): Promise<SimulatedMailRow[]> {
  return rowsOf(em, MAILS, {});
}

export type CarrierChannel = 'sms' | 'email';

const MODES = statement<Record<never, never>, { channel: CarrierChannel; mode: string }>(
  OWN_TABLES,
  'select channel, mode from simulated.carrier order by channel desc',
);

export function carrierModes(em: SqlEntityManager): Promise<{ channel: CarrierChannel; mode: string }[]> {
  return rowsOf(em, MODES, {});
}

const SET_MODE = statement<{ mode: string; channel: string }, never>(
  OWN_TABLES,
  'update simulated.carrier set mode = :mode where channel = :channel',
);

export async function setCarrierMode(em: SqlEntityManager, channel: CarrierChannel, mode: string): Promise<void> {
  await rowsOf(em, SET_MODE, { channel, mode });
}

const FROM_PHONE = statement<{ id: string; number: string; body: string; at: Date }, never>(
  OWN_TABLES,
  `insert into simulated.sms (id, direction, number, body, at) values (:id, 'from-patient', :number, :body, :at)`,
);

export async function recordFromPhone(
  em: SqlEntityManager,
  text: { id: string; number: string; body: string; at: Date },
): Promise<void> {
  await rowsOf(em, FROM_PHONE, text);
}

const FROM_MAILBOX = statement<{ raw: Buffer; address: string; body: string; at: Date }, never>(
  OWN_TABLES,
  'insert into simulated.mail_back (raw, address, body, at) values (:raw, :address, :body, :at)',
);

/** A mail on its way to the clinic; it is read by the job that takes what comes back. */
export async function recordFromMailbox(
  em: SqlEntityManager,
  mail: { address: string; body: string; raw: Buffer; at: Date },
): Promise<void> {
  await rowsOf(em, FROM_MAILBOX, mail);
}
