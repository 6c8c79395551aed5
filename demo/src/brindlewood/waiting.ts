import { addDays, type LocalDate } from '@zaguan/core/time';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf } from '../random.ts';
import { insertRows } from '../rows.ts';

/** What providers asked for, in days from today, each with why. */
const REQUESTS = [
  { type: 'Follow-up', from: -12, due: -2, urgency: 'urgent', reason: 'Swelling after the last injection' },
  { type: 'Follow-up', from: 0, due: 10, urgency: 'routine', reason: 'Medicine review' },
  { type: 'Skin-prick test', from: 3, due: 21, urgency: 'routine', reason: 'Tree and grass panel' },
  { type: 'Follow-up', from: 0, due: 3, urgency: 'asap', reason: 'Results of the breathing test' },
] as const;
const BENCHED = [
  { reason: 'After school only', note: 'Her mother calls back on Thursday.', hoursAgo: 26 },
  { reason: '', note: 'Wants to ask at work first.', hoursAgo: 3 },
] as const;
const SOONER = 6;
const HOUR_MS = 3_600_000;

/** What waits at the desk: requests that nobody booked yet, visits on the Bench, people who would come sooner. */
export async function loadWaiting(orm: Orm, today: LocalDate, now: Date): Promise<void> {
  const db = orm.em.getConnection();
  const people = await db.execute<{ id: string }[]>(
    `select id from patient p where status = 'active' and not restricted
     and not exists (select 1 from appointment a where a.patient_id = p.id and a.starts_at > ?) order by record_number limit ?`,
    [now, REQUESTS.length + BENCHED.length],
  );
  const types = await db.execute<{ id: string; name: string }[]>('select id, name from visit_type');
  const typeId = (name: string) => types.find((type) => type.name === name)?.id;
  const accounts = await db.execute<{ id: string; role: string; resource_id: string | null }[]>(
    `select id, role, resource_id from account where role in ('provider', 'coordinator') and active order by name`,
  );
  const provider = accounts.find(({ role }) => role === 'provider');
  const coordinator = accounts.find(({ role }) => role === 'coordinator');
  if (!provider || !coordinator || people.length < REQUESTS.length + BENCHED.length) return;
  await insertRows(
    orm,
    'booking_request',
    REQUESTS.map(({ type, from, due, urgency, reason }, i) => ({
      ...{ id: idOf(`request ${i}`), patient_id: people[i].id, visit_type_id: typeId(type), urgency, reason },
      ...{ site_id: null, provider_id: i % 2 ? null : provider.resource_id, state: 'open', version: 1 },
      from_date: addDays(today, from),
      due_date: addDays(today, due),
      asked_by: provider.id,
      asked_at: new Date(now.getTime() - (i === 0 ? 12 * 24 : i + 1) * HOUR_MS),
    })),
  );
  await insertRows(
    orm,
    'unplaced_visit',
    BENCHED.map(({ reason, note, hoursAgo }, i) => ({
      ...{ id: idOf(`bench ${i}`), patient_id: people[REQUESTS.length + i].id, visit_type_id: typeId('Follow-up') },
      ...{ reason_text: reason, note, owner_id: i ? null : coordinator.id, added_by: coordinator.id, version: 1 },
      since: new Date(now.getTime() - hoursAgo * HOUR_MS),
    })),
  );
  // Whoever was booked well ahead would rather come sooner.
  await db.execute(
    `insert into waitlist_wish (id, patient_id, appointment_id, visit_type_id, from_minute, to_minute, notice_min, created_by, created_at)
     select md5('wish ' || a.id::text)::uuid, a.patient_id, a.id, a.visit_type_id, 0, 720, 120, ?, ?
     from appointment a join patient p on p.id = a.patient_id
     where a.status = 'booked' and a.site_date > ? and not p.restricted order by a.starts_at, a.id limit ?`,
    [coordinator.id, new Date(now.getTime() - 48 * HOUR_MS), addDays(today, 14), SOONER],
  );
}
