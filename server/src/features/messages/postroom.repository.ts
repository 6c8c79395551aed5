import type { SqlEntityManager } from '@mikro-orm/postgresql';

export interface StandInRow {
  id: string;
  direction: 'to-patient' | 'from-patient';
  number: string;
  body: string;
  at: string;
}

/** Everything on the simulated phones, newest first. */
export function standInMessages(em: SqlEntityManager): Promise<StandInRow[]> {
  return em.execute('select id, direction, number, body, at from stand_in.sms order by seq desc limit 500');
}

export async function carrierMode(em: SqlEntityManager): Promise<'works' | 'down' | 'refuses'> {
  const [row] = await em.execute<{ mode: 'works' | 'down' | 'refuses' }[]>(
    `select mode from stand_in.carrier where channel = 'sms'`,
  );
  return row.mode;
}

export async function setCarrierMode(em: SqlEntityManager, mode: string): Promise<void> {
  await em.execute(`update stand_in.carrier set mode = ? where channel = 'sms'`, [mode]);
}

export async function recordFromPatient(
  em: SqlEntityManager,
  id: string,
  number: string,
  body: string,
  at: Date,
): Promise<void> {
  await em.execute(`insert into stand_in.sms (id, direction, number, body, at) values (?, 'from-patient', ?, ?, ?)`, [
    id,
    number,
    body,
    at,
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
