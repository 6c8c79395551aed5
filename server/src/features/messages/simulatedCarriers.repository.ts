import type { SqlEntityManager } from '@mikro-orm/postgresql';

export interface SimulatedText {
  id: string;
  direction: 'to-patient' | 'from-patient';
  number: string;
  body: string;
  at: string;
}

/** Everything on the simulated phones, newest first. */
export function simulatedTexts(em: SqlEntityManager): Promise<SimulatedText[]> {
  return em.execute('select id, direction, number, body, at from simulated.sms order by seq desc limit 500');
}

export interface SimulatedMailRow {
  id: string;
  direction: 'to-patient' | 'from-patient';
  address: string;
  subject: string;
  body: string;
  calendar: boolean;
  at: string;
}

/** Everything in the simulated mailboxes, newest first: what came, and what was answered from there. */
export function simulatedMails(em: SqlEntityManager): Promise<SimulatedMailRow[]> {
  return em.execute(
    `select id, 'to-patient' as direction, address, subject, body, calendar is not null as calendar, at from simulated.mail
     union all select 'back ' || id, 'from-patient', address, '', body, false, at from simulated.mail_back where body <> ''
     order by at desc limit 500`,
  );
}

export type CarrierChannel = 'sms' | 'email';

export async function carrierModes(em: SqlEntityManager): Promise<{ channel: CarrierChannel; mode: string }[]> {
  return em.execute('select channel, mode from simulated.carrier order by channel desc');
}

export async function setCarrierMode(em: SqlEntityManager, channel: CarrierChannel, mode: string): Promise<void> {
  await em.execute('update simulated.carrier set mode = ? where channel = ?', [mode, channel]);
}

export async function recordFromPhone(
  em: SqlEntityManager,
  text: { id: string; number: string; body: string; at: Date },
): Promise<void> {
  await em.execute(`insert into simulated.sms (id, direction, number, body, at) values (?, 'from-patient', ?, ?, ?)`, [
    text.id,
    text.number,
    text.body,
    text.at,
  ]);
}

/** A mail on its way to the clinic; it is read by the job that takes what comes back. */
export async function recordFromMailbox(
  em: SqlEntityManager,
  mail: { address: string; body: string; raw: Buffer; at: Date },
): Promise<void> {
  await em.execute('insert into simulated.mail_back (raw, address, body, at) values (?, ?, ?, ?)', [
    mail.raw,
    mail.address,
    mail.body,
    mail.at,
  ]);
}

/** Messages that are due and not yet handed over. */
export async function waitingCount(em: SqlEntityManager, now: Date): Promise<number> {
  const [row] = await em.execute<{ n: number }[]>(
    `select count(*)::int as n from message where status = 'planned' and send_at <= ?`,
    [now],
  );
  return row.n;
}

export async function moveClock(em: SqlEntityManager, minutes: number): Promise<void> {
  await em.execute('update domain_clock set offset_ms = offset_ms + ?', [minutes * 60_000]);
}
