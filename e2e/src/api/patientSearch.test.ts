import { searchPatients } from '@zaguan/contracts/patients';
import { type Findable, rankPatients } from '@zaguan/core/patientSearch';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { createPerson, listIdentityReview } from '@zaguan/contracts/identityReview';
import { indexNames, patientSearchSweeps } from '../../../server/src/features/patientSearch/index.ts';
import { openOrm } from '../../../server/src/platform/db/orm.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const WHEN = { today: '2026-12-01', order: 'month-first' as const };

/** People whom the demo has nobody like. */
const MORE = [
  ['Łukasz', 'Wójcik-Braun', null, '1984-03-12', '+13125550165', null],
  ['Guadalupe', 'Varga', 'Lupe', '1990-02-28', '+13125550165', 'lupe@example.com'],
  ['Wójcik', 'Łukasz', null, '1951-11-30', null, null],
  ['太郎', '山田', null, '2001-01-01', null, null],
  ['Siobhán', "O'Brien", null, '1984-12-31', '+442079460018', null],
  ['Hidden', 'Person', null, '1970-01-01', '+13125550199', null],
] as const;

describe('the search for patients', () => {
  let world: World;
  let desk: Client;
  let everyone: Findable[];

  const asked = async (client: Client, text: string) => dataOf(await client.call(searchPatients, { text }));
  const names = async (text: string, client = desk) => (await asked(client, text)).patients.map(({ name }) => name);

  beforeAll(async () => {
    world = await makeWorld('patientsearch');
    desk = await signedIn(world.servers[0].url, 'coordinator');
    for (const [i, [given, family, preferred, born, phone, email]] of MORE.entries()) {
      // The first came last: of two who fit alike, the order is told.
      const { rows } = await world.sql.query<{ id: string }>(
        `insert into patient (id, record_number, given_name, family_name, preferred_name, birth_date, status, restricted, created_at)
         values (gen_random_uuid(), $1, $2, $3, $4, $5, $6, $7, '2026-11-01'::date - $8::int) returning id`,
        [
          `ZX-0${i}77`,
          given,
          family,
          preferred,
          born,
          given === 'Wójcik' ? 'deceased' : 'active',
          given === 'Hidden',
          i,
        ],
      );
      for (const [kind, value] of [
        ['phone', phone],
        ['email', email],
      ] as const) {
        if (!value) continue;
        await world.sql.query(
          `with point as (insert into contact_point values (gen_random_uuid(), $2, $3) on conflict (kind, value) do update set value = excluded.value returning id)
           insert into patient_contact (patient_id, contact_point_id) select $1, id from point`,
          [rows[0].id, kind, value],
        );
      }
    }
    await world.sql.query(
      `insert into patient_former_name (id, patient_id, family_name, ended_at) select gen_random_uuid(), id, 'Delacourt', '2020-01-01' from patient where given_name = 'Guadalupe'`,
    );
    // Nobody wrote their words: the sweep does. A record that is made here writes its own.
    const [waiting] = dataOf(await desk.call(listIdentityReview, {})).waiting;
    dataOf(await desk.call(createPerson, { id: waiting.appointmentId as never, version: waiting.version }));
    expect((await world.sql.query('select 1 from patient where not is_findable')).rows).toHaveLength(MORE.length);
    const [sweep] = patientSearchSweeps;
    const orm = await openOrm({ url: world.url, connections: 1 });
    await orm.em.fork().transactional((em) => sweep.run(em, new Date()));
    await orm.close(true);
    const { rows } = await world.sql.query<Findable>(
      `select p.id as "patientId", record_number as "recordNumber", given_name as "givenName", family_name as "familyName", preferred_name as "preferredName", birth_date::text as "birthDate",
         coalesce((select json_agg(json_build_object('givenName', f.given_name, 'familyName', f.family_name)) from patient_former_name f where f.patient_id = p.id), '[]') as "formerNames",
         coalesce((select json_agg(value) from patient_contact join contact_point c on c.id = contact_point_id where patient_id = p.id and kind = 'phone'), '[]') as phones,
         coalesce((select json_agg(value) from patient_contact join contact_point c on c.id = contact_point_id where patient_id = p.id and kind = 'email'), '[]') as emails,
         extract(epoch from coalesce((select max(starts_at) from appointment a where a.patient_id = p.id), created_at))::float8 as recency
       from patient p where status <> 'archived'`,
    );
    everyone = rows;
  });
  afterAll(() => world.close());

  it('has everybody’s words, also of those who were written by somebody else', async () => {
    expect((await world.sql.query('select 1 from patient where not is_findable')).rows).toEqual([]);
    expect(everyone.length).toBeGreaterThan(140);
  });

  it('writes words for several at once, none in another’s way', async () => {
    const { rowCount } = await world.sql.query('update patient set is_findable = false');
    const orm = await openOrm({ url: world.url, connections: 4 });
    try {
      const done = await Promise.all(
        Array.from({ length: 4 }, () => orm.em.fork().transactional((em) => indexNames(em))),
      );
      expect(done.reduce((sum, n) => sum + n, 0)).toBe(rowCount);
    } finally {
      await orm.close(true);
    }
    expect((await world.sql.query('select 1 from patient where not is_findable')).rows).toEqual([]);
  });

  it.each([
    ['lukasz', ['Łukasz Wójcik-Braun', 'Wójcik Łukasz']],
    ['WOJCIKBRAUN', ['Łukasz Wójcik-Braun']],
    ['lukasz wojcik', ['Łukasz Wójcik-Braun', 'Wójcik Łukasz']],
    ['luaksz', ['Łukasz Wójcik-Braun', 'Wójcik Łukasz']],
    ['lupe delacourt', ['Guadalupe Varga']],
    ['delacuort 1990', ['Guadalupe Varga']],
    ['lupe@exam', ['Guadalupe Varga']],
    ['山田太郎', ['太郎 山田']],
    ['o brien siob', ["Siobhán O'Brien"]],
    ['obrien 12/31/1984', ["Siobhán O'Brien"]],
    ['0018', ["Siobhán O'Brien"]],
    ['ZX-0177', ['Guadalupe Varga']],
    ['277', ['Wójcik Łukasz']],
  ])('finds %s', async (text, expected) => {
    expect((await names(text)).slice(0, expected.length)).toEqual(expected);
  });

  it('tells apart those of one number, and says who died', async () => {
    const { patients } = await asked(desk, 'wojcik');
    expect(patients.map(({ name, age, phoneEnd, status }) => [name, age, phoneEnd, status])).toEqual([
      ['Łukasz Wójcik-Braun', 42, '0165', 'active'],
      ['Wójcik Łukasz', 75, null, 'deceased'],
    ]);
    expect(await names('wojcik 0165')).toEqual(['Łukasz Wójcik-Braun']);
  });

  it('knows nobody whom the reader may not see, and refuses who may not look', async () => {
    expect(await names('hidden person')).toEqual(['Hidden Person']);
    const front = await signedIn(world.servers[0].url, 'front-desk');
    for (const text of ['hidden', 'hidden person', '1970', '555-0199', 'ZX-0577'])
      expect(await names(text, front)).not.toContain('Hidden Person');
  });

  it('takes any sign for what it is', async () => {
    for (const text of ['%', '_', '\\', "'", '"; drop table patient', '%a%', 'a_', '…'])
      expect((await asked(desk, text)).patients.filter(({ fit }) => fit === 'exact')).toEqual([]);
    expect(refusalOf(await desk.call(searchPatients, { text: 'x'.repeat(101) })).tag).toBe('InvalidInput');
  });

  // The specification is core's ranking over every row there is.
  it('finds whom core’s ranking finds among all, in its order', async () => {
    const piece = fc.constantFrom(...everyone).chain((patient) => {
      const whole = [
        patient.givenName,
        patient.familyName,
        patient.preferredName ?? '',
        ...patient.formerNames.map(({ familyName }) => familyName),
      ].filter(Boolean);
      const begun = fc
        .constantFrom(...whole)
        .chain((name) => fc.integer({ min: 2, max: name.length + 1 }).map((n) => name.slice(0, n)));
      const slipped = fc
        .constantFrom(...whole.filter((name) => name.length > 4), 'Varga')
        .chain((name) => fc.integer({ min: 1, max: name.length - 2 }).map((n) => name.slice(0, n) + name.slice(n + 1)));
      const fact = fc.constantFrom(
        patient.birthDate,
        patient.birthDate.slice(0, 4),
        patient.recordNumber,
        ...patient.phones.map((phone) => phone.slice(-4)),
      );
      return fc
        .array(fc.oneof(begun, begun, slipped, fact), { minLength: 1, maxLength: 3 })
        .map((parts) => parts.join(' '));
    });
    await fc.assert(
      fc.asyncProperty(piece, async (text) => {
        const { patients, more } = await asked(desk, text);
        const expected = rankPatients(text, everyone, WHEN);
        expect([text, patients.map(({ id, fit }) => `${id} ${fit}`)]).toEqual([
          text,
          expected.slice(0, 20).map(({ patientId, fit }) => `${patientId} ${fit}`),
        ]);
        expect(more).toBe(expected.length > 20);
      }),
      { numRuns: 150 },
    );
  });
});
