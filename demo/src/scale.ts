import { addDays, type LocalDate } from '@zaguan/core/time';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { demoDay } from './day.ts';
import { PROVIDERS, SITES, TYPES } from './excerpt/ids.ts';
import { loadExcerpt } from './excerpt/index.ts';

const DAYS_BACK = 364;
const DAYS_AHEAD = 56;
/** Twenty-minute times of a day from 8 to 12 and from 1 to 5, and how many of a hundred are booked. */
const SLOTS = 24;
const BOOKED_OF_100 = 70;
const PROVIDERS_A_SITE = 8;
const AT_ONCE = 25;

/** A version 8 UUID (RFC 9562) of a text, in SQL. */
const uuid = (text: string) => `overlay(overlay(md5(${text}) placing '8' from 13) placing 'a' from 17)::uuid`;

export interface Scaled {
  readonly sites: number;
  readonly providers: number;
  readonly patients: number;
  readonly visits: number;
}

/** Names are made of these, two for a given one and three for a family name: 600 and 15,600 of them. */
const SYLLABLES = [
  'ama bea col dali eme fio gae hana ivo ju kaya lu mate nadi oma pe qui ro sami tala u ve wi xime yu zo mi ne so te'.split(
    ' ',
  ),
  'ra triz lia re na el ko ris ta mo sa ri lin do va len mir ta sel no'.split(' '),
  'aba bran cas dun esko far guil hol iba jol kas lind mon nor oka pem quis ram san thack under var weth xan yama ziel'.split(
    ' ',
  ),
  'ra de te mo la ver gan so ri ber ley ton ka ni ma sel wa tro vi no'.split(' '),
  'ra ski son lez ham ton ova ez man berg ko sen ini lund ard eau low kin dor well mar tis ows ney ter vic gar den ley ron'.split(
    ' ',
  ),
];

/**
 * Fills an empty, migrated database with as many patients as asked for, for measuring: the excerpt of the clinic, and
 * sites, providers, rooms and hours copied from it until everybody has about `visitsEach` visits in a year and eight weeks. Visits lie
 * on a grid, each with its provider and a room of its own, within their hours. The same numbers give the
 * same rows.
 *
 * @param tell hears how far it is
 */
export async function loadScale(
  orm: Orm,
  realToday: LocalDate,
  { patients, visitsEach = 3 }: { patients: number; visitsEach?: number },
  tell: (what: string) => void = () => undefined,
): Promise<Scaled> {
  const db = orm.em.getConnection();
  const today = demoDay(realToday);
  const { now } = await loadExcerpt(orm, realToday);
  const from = addDays(today, -DAYS_BACK);
  const until = addDays(today, DAYS_AHEAD);
  // Weekdays of the window: five of seven.
  const workdays = Math.floor(((DAYS_BACK + DAYS_AHEAD) * 5) / 7);
  const providers = Math.max(1, Math.ceil((patients * visitsEach) / (workdays * SLOTS * (BOOKED_OF_100 / 100))));
  const sites = Math.ceil(providers / PROVIDERS_A_SITE);
  const id = (what: string, n: string) => uuid(`'scale ${what} ' || ${n}`);
  const home = `((n - 1) / ${PROVIDERS_A_SITE} + 1)`;

  tell(`${sites} sites, ${providers} providers`);
  await db.execute(
    `insert into site select (jsonb_populate_record(s, jsonb_build_object('id', ${id('site', 'n')}, 'code', 'S' || n, 'name', 'Scale ' || n, 'public_name', 'Brindlewood ' || n, 'sort_order', 100))).*
     from site s, generate_series(1, ?) as n where s.id = ?`,
    [sites, SITES.canal],
  );
  await db.execute(
    `insert into site_hours select (jsonb_populate_record(h, jsonb_build_object('id', ${uuid("'scale hours ' || h.id || n")}, 'site_id', ${id('site', 'n')}))).*
     from site_hours h, generate_series(1, ?) as n where h.site_id = ?`,
    [sites, SITES.canal],
  );
  await db.execute(
    `insert into pool (id, site_id, kind, name) select ${id('pool', 'n')}, ${id('site', 'n')}, 'exam-room', 'Exam rooms' from generate_series(1, ?) as n`,
    [sites],
  );
  await db.execute(
    `insert into resource select (jsonb_populate_record(r, jsonb_build_object('id', ${id('provider', 'n')}, 'name', 'Dr. Scale ' || n, 'short_name', 'Scale ' || n, 'home_site_id', ${id('site', home)}))).*
     from resource r, generate_series(1, ?) as n where r.id = ?`,
    [providers, PROVIDERS.amaya],
  );
  await db.execute(
    `insert into resource (id, kind, name, short_name, home_site_id) select ${id('room', 'n')}, 'room', 'Room ' || n, 'Room ' || n, ${id('site', home)} from generate_series(1, ?) as n`,
    [providers],
  );
  await db.execute(
    `insert into provider select (jsonb_populate_record(p, jsonb_build_object('resource_id', ${id('provider', 'n')}, 'npi', null))).*
     from provider p, generate_series(1, ?) as n where p.resource_id = ?`,
    [providers, PROVIDERS.amaya],
  );
  for (const what of ['provider', 'room'])
    await db.execute(
      `insert into resource_site (resource_id, site_id) select ${id(what, 'n')}, ${id('site', home)} from generate_series(1, ?) as n`,
      [providers],
    );
  await db.execute(
    `insert into pool_member (pool_id, resource_id, number) select ${id('pool', home)}, ${id('room', 'n')}, n from generate_series(1, ?) as n`,
    [providers],
  );
  // They do what those do whom they are copies of.
  await db.execute(
    `insert into visit_type_provider (visit_type_id, provider_id) select t.visit_type_id, ${id('provider', 'n')} from visit_type_provider t, generate_series(1, ?) as n where t.provider_id = ?`,
    [providers, PROVIDERS.amaya],
  );
  await db.execute(
    `insert into visit_type_site (visit_type_id, site_id) select t.visit_type_id, ${id('site', 'n')} from visit_type_site t, generate_series(1, ?) as n where t.site_id = ?`,
    [sites, SITES.canal],
  );
  for (const [fromMinute, toMinute] of [
    [480, 720],
    [780, 1020],
  ])
    await db.execute(
      `insert into working_hours (id, resource_id, site_id, weekdays, every_weeks, anchor_date, effective_from, from_minute, to_minute, created_at)
       select ${uuid("'scale week ' || n || ?")}, ${id('provider', 'n')}, ${id('site', home)}, '{1,2,3,4,5}', 1, ?, ?, ?, ?, ? from generate_series(1, ?) as n`,
      [String(fromMinute), from, from, fromMinute, toMinute, now, providers],
    );

  tell(`${patients} patients`);
  await db.execute(
    `insert into patient (id, record_number, given_name, family_name, birth_date, sex, language, created_at)
     select ${id('patient', 'n')}, 'S' || lpad(n::text, 9, '0'), initcap((?::text[])[1 + n % ?] || (?::text[])[1 + n / 7 % ?]),
       initcap((?::text[])[1 + n / 3 % ?] || (?::text[])[1 + n / 11 % ?] || (?::text[])[1 + n / 101 % ?]), date '1935-01-01' + (n::bigint * 7919 % 31000)::int,
       case when n % 2 = 0 then 'female' else 'male' end, case when n % 6 = 0 then 'es' else 'en' end, ?
     from generate_series(1, ?) as n`,
    [...SYLLABLES.flatMap((each) => [`{${each.join(',')}}`, each.length]), now, patients],
  );

  tell('the words of their names');
  // These are plain letters, each name one word: folding comes to writing them small.
  await db.execute(
    `insert into patient_word select distinct lower(word), id from patient, lateral (values (given_name), (family_name)) as named(word) where not is_findable`,
  );
  await db.execute('update patient set is_findable = true where not is_findable');

  for (let first = 1; first <= providers; first += AT_ONCE) {
    const last = Math.min(providers, first + AT_ONCE - 1);
    tell(`visits of providers ${first} to ${last} of ${providers}`);
    await orm.em.fork().transactional(async (em) => {
      await em.execute(
        `insert into appointment (id, site_id, visit_type_id, provider_id, patient_id, patient_kind, status, identity, origin, starts_at, ends_at, provider_starts_at, provider_ends_at, before_min, after_min, site_date, fulfilled_at, changed_at, created_at)
         select ${uuid("'scale visit ' || n || day || slot")}, ${id('site', home)}, ?, ${id('provider', 'n')}, ${uuid(`'scale patient ' || 1 + (n::bigint * 7919 * 31 + (day::date - date '2020-01-01') * ${SLOTS} + slot) % ?`)},
           'established', case when t.at + interval '20 minutes' <= ? then 'fulfilled' else 'booked' end, 'sure', 'desk',
           t.at, t.at + interval '20 minutes', t.at, t.at + interval '20 minutes', 0, 0, day::date, case when t.at + interval '20 minutes' <= ? then t.at + interval '20 minutes' end, case when t.at + interval '20 minutes' <= ? then t.at + interval '20 minutes' else t.at - interval '20 days' end, t.at - interval '20 days'
         from generate_series(?::int, ?::int) as n, generate_series(?::timestamp, ?::timestamp, interval '1 day') as day, generate_series(0, ${SLOTS - 1}) as slot,
           lateral (select (day + make_interval(mins => 480 + slot * 20 + case when slot >= ${SLOTS / 2} then 60 else 0 end)) at time zone 'America/Chicago' as at) as t
         where extract(isodow from day) < 6 and (n * 31 + (day::date - date '2020-01-01') * 17 + slot * 7) * 40503 % 100 < ${BOOKED_OF_100}`,
        [TYPES.follow, patients, now, now, now, first, last, from, until],
      );
      for (const kind of ['provider', 'room'])
        await em.execute(
          `insert into occupancy (resource_id, place, places, during, appointment_id, need_key)
           select ${id(kind, 'n')}, 0, 1, tstzrange(a.starts_at, a.ends_at), a.id, '${kind}' from generate_series(?::int, ?::int) as n join appointment a on a.provider_id = ${id('provider', 'n')}`,
          [first, last],
        );
    });
  }
  tell('statistics');
  await db.execute('truncate openings_change');
  await db.execute('analyze');
  const [{ n }] = (await db.execute('select count(*)::int as n from appointment')) as { n: number }[];
  return { sites, providers, patients, visits: n };
}
