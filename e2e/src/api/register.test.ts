import type { RequestOf } from '@zaguan/contracts';
import { likePatients, patientRecord, registerPatients, searchPatients } from '@zaguan/contracts/patients';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

type Typed = RequestOf<typeof registerPatients>;

const person = (givenName: string, familyName: string, birthDate: string, contact = '') => ({
  ...{ givenName, familyName, birthDate, contact },
  sex: null,
  preferredName: '',
});
const form = (people: Typed['people'], more: Partial<Typed> = {}): Typed => ({
  people,
  language: 'en',
  contact: '(312) 555-0142',
  unreachable: false,
  ...{ street: '', city: '', region: '', postalCode: '' },
  guardians: [],
  notThese: [],
  ...more,
});

describe('registering patients', () => {
  let world: World;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('register');
    desk = await signedIn(world.servers[0].url, 'front-desk');
  });
  afterAll(() => world.close());

  const count = async () => (await world.sql.query<{ n: number }>('select count(*)::int as n from patient')).rows[0].n;
  const record = async (id: string, client = desk) => dataOf(await client.call(patientRecord, { id })).record;
  const found = async (text: string) => dataOf(await desk.call(searchPatients, { text })).patients.map(({ id }) => id);

  it('makes a record from the least, finds it at once, and takes it back without a trace', async () => {
    const before = await count();
    const { patients, undo: way } = dataOf(
      await desk.call(registerPatients, form([person('Oriane', 'Vesterholt', '1991-04-07')])),
    );
    const [{ id, recordNumber }] = patients;
    expect(await found('vest ori')).toEqual([id]);
    expect(await record(id)).toMatchObject({
      recordNumber,
      status: 'new',
      birthDate: '1991-04-07',
      household: null,
      contacts: [{ value: '+13125550142', verifiedAt: null, optedOut: false }],
    });
    dataOf(await desk.call(undo, { id: way.id }));
    expect(await count()).toBe(before);
    expect(await found('vest ori')).toEqual([]);
  });

  it('shows who is alike while one types, with what agrees and what differs, also swapped or with a slip', async () => {
    const { patients } = dataOf(await desk.call(registerPatients, form([person('Benedikt', 'Aldous', '1978-02-11')])));
    const [{ id }] = patients;
    const like = async (givenName: string, familyName: string, birthDate: string | null, contact = '') => {
      const rows = dataOf(await desk.call(likePatients, { givenName, familyName, birthDate, contact })).patients;
      return rows.find(({ patientId }) => patientId === id);
    };
    expect(await like('Benedikt', 'Aldous', '1978-02-11')).toMatchObject({
      verdict: 'likely',
      fields: { 'family-name': 'agrees', 'given-name': 'agrees', 'birth-date': 'agrees', contact: 'unknown' },
    });
    expect(await like('Aldous', 'Benedikt', '1978-11-02')).toMatchObject({
      fields: { 'family-name': 'alike', 'given-name': 'alike', 'birth-date': 'alike' },
    });
    // A birth date that is not known yet is neither for nor against.
    expect(await like('Benedikt', 'Aldous', null, '312 555 0142')).toMatchObject({
      verdict: 'likely',
      fields: { 'birth-date': 'unknown', contact: 'agrees' },
    });
    expect(await like('Theodora', 'Aldous', '1978-02-11')).toMatchObject({ verdict: 'relative' });
    expect(await like('Nobody', 'Atall', '1950-01-01')).toBeUndefined();
    // What is not a number yet is no fault while it is typed.
    expect(await like('Benedikt', 'Aldous', '1978-02-11', '31')).toMatchObject({ fields: { contact: 'unknown' } });
  });

  it('refuses who is likely on record until somebody has looked, and keeps nothing', async () => {
    const once = form([person('Ilse', 'Crowhurst', '1969-09-30')]);
    const [{ id }] = dataOf(await desk.call(registerPatients, once)).patients;
    const before = await count();
    const again = form([person('Nils', 'Crowhurst', '1999-01-02'), person('Ilse', 'Crowhurst', '1969-09-30')]);
    const refused = refusalOf(await desk.call(registerPatients, again));
    expect(refused).toMatchObject({ tag: 'LikelySame', facts: { person: 2 } });
    expect(await count()).toBe(before);
    const { patients } = dataOf(await desk.call(registerPatients, { ...again, notThese: [id] }));
    expect(patients).toHaveLength(2);
  });

  it('lets one of two desks register a person, and tells the other', async () => {
    const other = await signedIn(world.servers[0].url, 'coordinator');
    const typed = form([person('Wilhelmina', 'Ostrander', '2001-12-24')]);
    const answers = await Promise.all([desk, other].map((client) => client.call(registerPatients, typed)));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(answers.flatMap(({ error }) => error?.tag ?? [])).toEqual(['LikelySame']);
    expect(await found('ostr wil')).toHaveLength(1);
  });

  it('registers a household at once: what they share, and who acts for the children', async () => {
    const children = ['Ada', 'Bo', 'Cy'].map((name, i) => person(name, 'Farnsworthy', `201${i + 4}-05-0${i + 1}`));
    const { patients } = dataOf(
      await desk.call(
        registerPatients,
        form([person('Marit', 'Farnsworthy', '1986-03-03', 'marit@example.com'), ...children], {
          ...{ street: '7 Kiln Lane', city: 'Brindlewood', region: 'IL', postalCode: '60601' },
          contact: '312-555-0177',
          guardians: [
            { person: 0, name: '', kind: 'parent', rights: ['book', 'sign', 'receive', 'see'] },
            { person: null, name: 'Odo Farnsworthy', kind: 'guardian', rights: ['book'] },
          ],
        }),
      ),
    );
    const [mother, ada] = [await record(patients[0].id), await record(patients[1].id)];
    expect(mother.relationships).toEqual([]);
    expect(mother.contacts.map(({ value }) => value)).toEqual(['marit@example.com', '+13125550177']);
    expect(ada.contacts).toMatchObject([{ value: '+13125550177', sharedBy: 3 }]);
    expect([ada.street, ada.city, ada.region, ada.postalCode]).toEqual(['7 Kiln Lane', 'Brindlewood', 'IL', '60601']);
    expect(ada.household?.name).toBe('Farnsworthy');
    expect(ada.household?.members.map(({ name }) => name)).toEqual([
      'Marit Farnsworthy',
      'Bo Farnsworthy',
      'Cy Farnsworthy',
    ]);
    const rights = ada.relationships.map(({ name, relatedPatientId, rightsToday }) => [
      name,
      relatedPatientId,
      rightsToday,
    ]);
    expect(rights).toHaveLength(2);
    expect(rights).toEqual(
      expect.arrayContaining([
        ['Marit Farnsworthy', patients[0].id, ['book', 'sign', 'receive', 'see']],
        ['Odo Farnsworthy', null, ['book']],
      ]),
    );
    // From today, until they are of age.
    expect(ada.relationships[0]).toMatchObject({ fromDate: TEST_DAY, untilDate: null });
  });

  it('keeps nobody of a household of whom one can’t be kept, and names the field', async () => {
    const before = await count();
    const people = [person('Fine', 'Enough', '1990-01-01'), person('Not', 'Born', '2090-01-01')];
    expect(refusalOf(await desk.call(registerPatients, form(people)))).toMatchObject({
      tag: 'InvalidInput',
      issues: [{ path: 'people.1.birthDate', code: 'birth-in-future' }],
    });
    expect(await count()).toBe(before);
  });

  const issuesOf = async (typed: Typed) => refusalOf(await desk.call(registerPatients, typed)).issues ?? [];
  it.each([
    ['no name', form([person(' ', '', '1990-01-01')]), 'people.0.givenName', 'name-empty'],
    [
      'a name of 200 letters',
      form([person('x'.repeat(200), 'Y', '1990-01-01')]),
      'people.0.givenName',
      'name-too-long',
    ],
    ['a name without letters', form([person('123', 'Y', '1990-01-01')]), 'people.0.givenName', 'name-no-letters'],
    ['29 February of a common year', form([person('A', 'B', '1990-02-29')]), 'people.0.birthDate', 'not-a-date'],
    ['130 years back', form([person('A', 'B', '1896-01-01')]), 'people.0.birthDate', 'birth-too-long-ago'],
    [
      'no phone, and nobody says so',
      form([person('A', 'B', '1990-01-01')], { contact: '' }),
      'contact',
      'contact-or-none',
    ],
    ['no number', form([person('A', 'B', '1990-01-01')], { contact: '12' }), 'contact', 'phone-not-a-phone'],
    [
      'one person twice',
      form([person('A', 'B', '1990-01-01'), person('A', 'B', '1990-01-01')]),
      'people.1.givenName',
      'person-twice',
    ],
    [
      'a guardian without a name',
      form([person('A', 'B', '2020-01-01')], {
        guardians: [{ person: null, name: '', kind: 'parent', rights: ['book'] }],
      }),
      'guardians.0.name',
      'needed',
    ],
    [
      'a guardian who may do nothing',
      form([person('A', 'B', '2020-01-01')], { guardians: [{ person: null, name: 'C', kind: 'parent', rights: [] }] }),
      'guardians.0.rights',
      'no-right',
    ],
  ])('says what is wrong with %s', async (_what, typed, path, code) => {
    expect(await issuesOf(typed)).toContainEqual({ path, code });
  });

  it('takes a name of one word, in any script, somebody born on 29 February, without a phone, and a household of nine', async () => {
    const alone = dataOf(
      await desk.call(registerPatients, form([person('سلمى', '', '2004-02-29')], { contact: '', unreachable: true })),
    ).patients;
    expect(await record(alone[0].id)).toMatchObject({ name: 'سلمى', contacts: [] });
    const nine = Array.from({ length: 9 }, (_, i) => person(`Kin${'abcdefghi'[i]}`, 'Nonagon', `20${10 + i}-06-15`));
    expect(dataOf(await desk.call(registerPatients, form(nine))).patients).toHaveLength(9);
  });

  it('tells who may not open a restricted record that there is one, and lets a manager decide', async () => {
    const [{ id }] = dataOf(
      await desk.call(registerPatients, form([person('Sunniva', 'Hallgrim', '1955-05-05')])),
    ).patients;
    await world.sql.query('update patient set restricted = true where id = $1', [id]);
    const typed = { givenName: 'Sunniva', familyName: 'Hallgrim', birthDate: '1955-05-05', contact: '' };
    const [like] = dataOf(await desk.call(likePatients, typed)).patients;
    expect(like).toMatchObject({ patientId: null, recordNumber: null, name: 'Restricted SH', birthDate: null });
    // Nor what of it agrees: a wrong birth date, and nothing is said at all.
    expect(Object.values(like.fields)).toEqual(['unknown', 'unknown', 'unknown', 'unknown']);
    expect(dataOf(await desk.call(likePatients, { ...typed, birthDate: '1930-01-01' })).patients).toEqual([]);
    const again = form([person('Sunniva', 'Hallgrim', '1955-05-05')], { notThese: [id] });
    expect(refusalOf(await desk.call(registerPatients, again)).tag).toBe('LikelySame');
    const manager = await signedIn(world.servers[0].url, 'manager');
    expect(dataOf(await manager.call(registerPatients, again)).patients).toHaveLength(1);
  });

  it('is not for roles that may not change records', async () => {
    const reader = await signedIn(world.servers[0].url, 'read-only');
    expect(refusalOf(await reader.call(registerPatients, form([person('A', 'B', '1990-01-01')]))).tag).toBe(
      'NotAllowed',
    );
  });
});
