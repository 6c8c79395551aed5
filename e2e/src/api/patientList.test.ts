import * as contract from '@zaguan/contracts/patients';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const EVERYONE: contract.PatientListQuery = {
  ...{ text: '', statuses: ['new', 'active', 'inactive', 'deceased'], siteId: null, language: null },
  ...{ seen: 'any', next: 'any', code: '', sort: 'fit', descending: false },
};

interface Row {
  readonly id: string;
  readonly family: string;
  readonly given: string;
  readonly status: string;
  readonly language: string;
  readonly born: string;
  readonly restricted: boolean;
  readonly home: string | null;
  readonly sites: string[];
  readonly past: number | null;
  readonly next: number | null;
  readonly codes: string[];
}

/** The same as everybody's rows, worked out here one by one: what the statement with its filters must equal. */
describe('the list of patients', () => {
  let world: World;
  let desk: Client;
  let everyone: Row[];
  let now: number;
  beforeAll(async () => {
    world = await makeWorld('patient_list');
    desk = await signedIn(world.servers[0].url, 'coordinator');
    await world.sql.query(
      `update patient p set status = (array['active','inactive','deceased','new','archived'])[1 + n % 5], restricted = n % 11 = 0, language = case when n % 3 = 0 then 'es' else 'en' end,
         home_site_id = case when n % 2 = 0 then $1::uuid end from (select id, row_number() over (order by id) as n from patient) o where o.id = p.id`,
      [SITES.mesa],
    );
    await world.sql.query(
      `insert into patient_code (id, patient_id, system, code, added_at) select gen_random_uuid(), id, 'http://hl7.org/fhir/sid/icd-10-cm', case when n % 2 = 0 then 'J45.909' else 'J30.1' end, now() from (select id, row_number() over (order by id) as n from patient) o where n % 3 = 0`,
    );
    const { rows } = await world.sql.query<Row & { now: number }>(
      `select p.id, family_name as family, given_name as given, status, language, birth_date::text as born, restricted, home_site_id as home,
         (extract(epoch from clock_timestamp()) * 1000 + (select offset_ms from domain_clock))::float8 as now,
         coalesce((select json_agg(distinct a.site_id) from appointment a where a.patient_id = p.id), '[]') as sites,
         (select extract(epoch from max(a.starts_at)) * 1000 from appointment a where a.patient_id = p.id and a.status in ('arrived','checked-in','fulfilled') and a.starts_at <= clock_timestamp() + (select offset_ms from domain_clock) * interval '1 millisecond')::float8 as past,
         (select extract(epoch from min(a.starts_at)) * 1000 from appointment a where a.patient_id = p.id and a.status in ('booked','pending') and a.starts_at > clock_timestamp() + (select offset_ms from domain_clock) * interval '1 millisecond')::float8 as next,
         coalesce((select json_agg(code) from patient_code c where c.patient_id = p.id), '[]') as codes
       from patient p`,
    );
    everyone = rows;
    now = rows[0].now;
  });
  afterAll(() => world.close());

  const list = async (query: Partial<contract.PatientListQuery>, client = desk) => {
    const ids: string[] = [];
    for (let page = 0; ; page++) {
      const answer = dataOf(await client.call(contract.listPatients, { ...EVERYONE, ...query, page }));
      ids.push(...answer.patients.map(({ id }) => id));
      if (ids.length >= answer.total || !answer.patients.length) {
        expect(ids.length).toBe(answer.total);
        return ids;
      }
    }
  };
  const YEAR_MS = 366 * 86_400_000;
  const seenBy = (how: contract.PatientListQuery['seen'], { past }: Row) => {
    if (how === 'never') return past === null;
    if (how === 'within-year') return past !== null && past > now - YEAR_MS;
    return how === 'any' || (past !== null && past <= now - YEAR_MS);
  };
  const expected = (query: Partial<contract.PatientListQuery>) => {
    const wanted = { ...EVERYONE, ...query };
    return everyone
      .filter((row) => wanted.statuses.includes(row.status as 'active'))
      .filter(({ language }) => !wanted.language || language === wanted.language)
      .filter(({ home, sites }) => !wanted.siteId || (home ? home === wanted.siteId : sites.includes(wanted.siteId)))
      .filter((row) => seenBy(wanted.seen, row))
      .filter(({ next }) => wanted.next === 'any' || (next !== null) === (wanted.next === 'booked'))
      .filter(({ codes }) => !wanted.code || codes.some((code) => code.startsWith(wanted.code.toUpperCase())))
      .map(({ id }) => id)
      .sort();
  };

  it.each<Partial<contract.PatientListQuery>>([
    {},
    { statuses: ['active'] },
    { statuses: [] },
    { language: 'es' },
    { siteId: SITES.mesa },
    { siteId: SITES.canal },
    { seen: 'never' },
    { seen: 'within-year' },
    { seen: 'not-within-year' },
    { next: 'booked' },
    { next: 'none', language: 'en' },
    { code: 'j45' },
    { code: '%' },
    { code: 'J', statuses: ['active', 'inactive'], seen: 'within-year' },
  ])('holds whom the filters leave, each once, over all its pages: %j', async (query) => {
    expect((await list(query)).sort()).toEqual(expected(query));
  });

  it('is in the order that is asked for, and whoever was here last stands first without one', async () => {
    const rowOf = new Map(everyone.map((row) => [row.id, row]));
    const rows = (ids: readonly string[]) => ids.flatMap((id) => rowOf.get(id) ?? []);
    const recent = rows(await list({ seen: 'within-year' })).map(({ past }) => past ?? 0);
    expect(recent).toEqual([...recent].sort((a, b) => b - a));
    const born = rows(await list({ sort: 'birthDate', descending: true })).map((row) => row.born);
    expect(born).toEqual([...born].sort().reverse());
    const names = rows(await list({ sort: 'name' })).map(({ family, given }) =>
      [family, given].map((each) => each.toLowerCase()),
    );
    const key = (name: string[]) => name.join('\u0000');
    expect(names.map(key)).toEqual([...names].map(key).sort());
    const next = rows(await list({ sort: 'nextVisit', next: 'booked' })).map((row) => row.next ?? 0);
    expect(next).toEqual([...next].sort((a, b) => a - b));
  });

  it('holds what the search finds, in its order, narrowed like any other', async () => {
    const text = everyone.find(({ status, restricted }) => status === 'active' && !restricted)?.family ?? '';
    const found = dataOf(await desk.call(contract.searchPatients, { text })).patients.map(({ id }) => id);
    expect((await list({ text })).slice(0, found.length)).toEqual(found);
    const active = new Set(expected({ statuses: ['active'] }));
    expect(await list({ text, statuses: ['active'] })).toEqual((await list({ text })).filter((id) => active.has(id)));
    for (const odd of ['%', '_', '\\', "'", '";--']) expect(await list({ text: odd })).toEqual([]);
  });

  it('leaves out restricted records for whoever may not open them', async () => {
    const front = await signedIn(world.servers[0].url, 'front-desk');
    const hidden = new Set(everyone.filter(({ restricted }) => restricted).map(({ id }) => id));
    expect(hidden.size).toBeGreaterThan(5);
    expect((await list({}, front)).sort()).toEqual(expected({}).filter((id) => !hidden.has(id)));
  });

  it('is saved under a name for the account alone, written over under the same one, and deleted', async () => {
    const other = await signedIn(world.servers[0].url, 'front-desk');
    const names = async (client: Client) =>
      dataOf(await client.call(contract.savedPatientLists, {})).lists.map(({ name, query }) => [name, query.language]);
    const save = (language: 'en' | 'es') =>
      desk.call(contract.savePatientList, { name: ' Winter letters ', query: { ...EVERYONE, language } });
    const { id } = dataOf(await save('es'));
    expect(dataOf(await save('en')).id).toBe(id);
    expect(await names(desk)).toEqual([['Winter letters', 'en']]);
    expect(await names(other)).toEqual([]);
    expect(refusalOf(await other.call(contract.deletePatientList, { id })).tag).toBe('NotFound');
    const nameless = await desk.call(contract.savePatientList, { name: '  ', query: EVERYONE });
    expect(refusalOf(nameless).issues?.[0].code).toBe('needed');
    // One that can't be read any more is told, and takes none of the others with it.
    await world.sql.query(
      `insert into patient_list (id, account_id, name, query, created_at) select gen_random_uuid(), account_id, 'Old', '{"text": 3}', now() from patient_list`,
    );
    expect(await names(desk)).toEqual([['Winter letters', 'en']]);
    expect(dataOf(await desk.call(contract.savedPatientLists, {})).unreadable).toHaveLength(1);
    dataOf(await desk.call(contract.deletePatientList, { id }));
    expect(await names(desk)).toEqual([]);
  });
});
