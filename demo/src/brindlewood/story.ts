import { epochToWall, type LocalDate } from '@zaguan/core/time';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf } from '../random.ts';
import { insertRows } from '../rows.ts';

/** Visits of the provider who calls in sick that stand in the time off and want another time. */
const VISITS_TO_MOVE = 9;
/** Minutes ago at which somebody gave up a time of this afternoon. */
const GIVEN_UP_MIN = [52, 17];
/** Nobody gives up a visit that begins sooner than this. */
const SOON_MIN = 90;
/** This morning the text message carrier was down for a while, by the first site's clock. */
const CARRIER_DOWN = { fromMin: 485, toMin: 500 };

interface ComingRow {
  id: string;
  provider_id: string;
  time_zone: string;
  starts_at: string;
}

/** What happened this morning: a sick call over nine visits, and two times given up for this afternoon. */
export async function loadStory(orm: Orm, today: LocalDate, now: Date): Promise<void> {
  const db = orm.em.getConnection();
  const upcoming = await db.execute<ComingRow[]>(
    `select a.id, a.provider_id, s.time_zone, a.starts_at from appointment a join site s on s.id = a.site_id
     where a.site_date = ? and a.status = 'booked' and a.provider_id is not null and a.starts_at > ? order by a.starts_at, a.id`,
    [today, now],
  );
  const byProvider = new Map<string, ComingRow[]>();
  for (const row of upcoming) byProvider.set(row.provider_id, [...(byProvider.get(row.provider_id) ?? []), row]);
  const [sick] = [...byProvider.values()].sort((a, b) => b.length - a.length);
  // A holiday or a Saturday may have fewer to come: then all of them must move; with none there is no story.
  const first = sick?.at(-Math.min(VISITS_TO_MOVE, sick.length));
  if (!first) return;
  await insertRows(orm, 'time_off', [
    {
      id: idOf('sick call'),
      resource_id: first.provider_id,
      site_id: null,
      start_date: today,
      start_minute: epochToWall(first.time_zone, Date.parse(first.starts_at) / 60_000).minute,
      end_date: today,
      end_minute: 1440,
      reason: 'Called in sick',
      status: 'approved',
    },
  ]);
  // Whoever was booked with them from then on waits on the list of visits to move.
  const from = Date.parse(first.starts_at);
  await insertRows(
    orm,
    'visit_to_move',
    upcoming
      .filter((row) => row.provider_id === first.provider_id && Date.parse(row.starts_at) >= from)
      .map(({ id }) => ({ appointment_id: id, since: now })),
  );
  const later = upcoming.filter(
    (row) => row.provider_id !== first.provider_id && Date.parse(row.starts_at) > now.getTime() + SOON_MIN * 60_000,
  );
  for (const [i, agoMin] of GIVEN_UP_MIN.entries()) {
    if (later.length < GIVEN_UP_MIN.length) return;
    const { id } = later[Math.floor(((i + 1) * later.length) / (GIVEN_UP_MIN.length + 1))];
    await db.execute('delete from occupancy where appointment_id = ?', [id]);
    await db.execute(
      `update appointment set status = 'cancelled', cancelled_at = ?, cancel_reason = 'patient-asked', confirmed_at = null, version = version + 1, changed_at = ? where id = ?`,
      [new Date(now.getTime() - agoMin * 60_000), new Date(now.getTime() - agoMin * 60_000), id],
    );
  }
}

/** What was due while the carrier was down did not go out, and is somebody's work now. */
export async function failCarrier(orm: Orm, zone: string, today: LocalDate): Promise<void> {
  await orm.em.getConnection().execute(
    `update message set status = 'failed', fail_reason = 'carrier-down', sent_at = null, receipt_at = null, handled_at = null, attempts = 6
     where id in (select id from message where status = 'delivered' and (send_at at time zone ?)::date = ?
       and extract(hour from send_at at time zone ?) * 60 + extract(minute from send_at at time zone ?) between ? and ? order by send_at, id limit 4)`,
    [zone, today, zone, zone, CARRIER_DOWN.fromMin, CARRIER_DOWN.toMin],
  );
}
