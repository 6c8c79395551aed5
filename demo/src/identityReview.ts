import type { Orm } from '@zaguan/server/platform/db/orm';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { insertRows } from './rows.ts';
import { idOf } from './random.ts';

/** Far enough ahead that today's story stays readable. */
const FROM_DAYS = 20;

interface Booked {
  id: string;
  given_name: string;
  birth_date: string;
  phone: string;
}

/** Three self-bookings whose person is not known: a married name, a stranger, an obvious fake. */
export async function loadIdentityReview(orm: Orm, today: LocalDate, now: Date): Promise<void> {
  const rows = await orm.em.getConnection().execute<Booked[]>(
    `select a.id, p.given_name, p.birth_date::text, cp.value as phone from appointment a join patient p on p.id = a.patient_id
     join patient_contact pc on pc.patient_id = p.id join contact_point cp on cp.id = pc.contact_point_id and cp.kind = 'phone'
     where a.origin = 'self' and a.status = 'booked' and a.site_date >= ? order by a.starts_at, a.id limit 3`,
    [addDays(today, FROM_DAYS)],
  );
  const people = [
    { family_name: 'Okafor-Lindqvist' },
    { given_name: 'Delphine', family_name: 'Marchetti', birth_date: '1979-08-21', phone: '+13125550188' },
    { given_name: 'Asdf', family_name: 'Qwerty', birth_date: '1999-01-01', phone: '+13125550199' },
  ];
  const hash = (n: number) => `\\x${n.toString(16).padStart(2, '0').repeat(32)}`;
  await insertRows(
    orm,
    'self_booking',
    rows.map(({ id, ...person }, i) => ({
      appointment_id: id,
      ...person,
      ...people[i],
      email: null,
      language: 'en',
      kind_claimed: 'established',
      hold_id: idOf(`hold ${i}`),
      // Three browsers: these are three people.
      browser_hash: hash(i + 1),
      content_hash: hash(i + 1),
      booked_at: new Date(now.getTime() - (i + 1) * 3_600_000).toISOString(),
    })),
  );
  await orm.em.getConnection().execute(
    `update appointment set identity = 'unknown', patient_id = null where id in (${rows.map(() => '?').join(',')})`,
    rows.map((row) => row.id),
  );
}
