import * as contract from '@zaguan/contracts/patients';
import { daybookDay, unfoldDay } from '@zaguan/contracts/daybook';
import { createPerson, listIdentityReview } from '@zaguan/contracts/identityReview';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit, MARTA } from '../fixtures/patient.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

describe('a record that is changed', () => {
  let world: World;
  let desk: Client;
  let other: Client;
  beforeAll(async () => {
    world = await makeWorld('edit_patient');
    [desk, other] = [
      await signedIn(world.servers[0].url, 'front-desk'),
      await signedIn(world.servers[0].url, 'coordinator'),
    ];
  });
  afterAll(() => world.close());

  const record = async (id: string, client = desk) => dataOf(await client.call(contract.patientRecord, { id })).record;
  const found = async (text: string) =>
    dataOf(await desk.call(contract.searchPatients, { text })).patients.map(({ id }) => id);
  let made = 0;
  /** Somebody new, so that no test is in another's way. */
  const someone = async (givenName = 'Mira', familyName = 'Oakesworth', contact = '312-555-0150') => {
    made++;
    const { patients } = dataOf(
      await desk.call(contract.registerPatients, {
        people: [
          {
            ...{ givenName, familyName, sex: null, preferredName: '', contact: '' },
            birthDate: `19${String(made + 40)}-03-12`,
          },
        ],
        ...{ language: 'en', contact, unreachable: false, guardians: [], notThese: [] },
        ...{ street: '', city: '', region: '', postalCode: '' },
      }),
    );
    return record(patients[0].id);
  };
  const identity = ({ id, version, givenName, familyName, preferredName, birthDate, sex }: contract.PatientRecord) => ({
    ...{ id, version, givenName, familyName, preferredName, birthDate, sex },
    reason: null,
  });

  describe('its identity', () => {
    it('asks why a name or birth date is another one, and corrects a mistake', async () => {
      const before = await someone();
      const typed = { ...identity(before), familyName: 'Oaksworth' };
      expect(refusalOf(await desk.call(contract.saveIdentity, typed)).issues).toEqual([
        { path: 'reason', code: 'reason-needed' },
      ]);
      const saved = dataOf(await desk.call(contract.saveIdentity, { ...typed, reason: 'mistake' }));
      expect(await record(before.id)).toMatchObject({
        familyName: 'Oaksworth',
        formerNames: [],
        version: saved.version,
      });
      // It is found by the name as it is now, and not by the mistake.
      expect(await found(`oaksworth ${before.birthDate}`)).toEqual([before.id]);
      const { trail } = await record(before.id);
      const change = trail.find(({ command }) => command === 'patients.saveIdentity');
      expect(change?.changes).toEqual([
        { field: 'family-name', label: null, before: 'Oakesworth', after: 'Oaksworth' },
      ]);
      dataOf(await desk.call(undo, { id: saved.undo.id }));
      expect(await record(before.id)).toMatchObject({ familyName: 'Oakesworth' });
    });

    it('keeps the name somebody had, and finds them by it, until the change is undone', async () => {
      const before = await someone('Philippa', 'Greystone');
      const typed = { ...identity(before), familyName: 'Marchbanks', reason: 'new-name' as const };
      const saved = dataOf(await desk.call(contract.saveIdentity, typed));
      expect((await record(before.id)).formerNames).toMatchObject([{ name: 'Philippa Greystone' }]);
      expect(await found('greystone')).toEqual([before.id]);
      expect(await found('marchbanks')).toEqual([before.id]);
      dataOf(await desk.call(undo, { id: saved.undo.id }));
      expect(await record(before.id)).toMatchObject({ name: 'Philippa Greystone', formerNames: [] });
      expect(await found('marchbanks')).toEqual([]);
    });

    it('never turns one patient into another', async () => {
      const before = await someone('Tobias', 'Lindqvist');
      const sibling = { ...identity(before), givenName: 'Annika', birthDate: '2003-07-21', reason: 'mistake' as const };
      expect(refusalOf(await desk.call(contract.saveIdentity, sibling)).tag).toBe('SomeoneElse');
      const newName = { ...identity(before), birthDate: '2003-07-21', reason: 'new-name' as const };
      expect(refusalOf(await desk.call(contract.saveIdentity, newName)).issues).toEqual([
        { path: 'reason', code: 'birth-date-stays' },
      ]);
      const future = { ...identity(before), birthDate: '2090-01-01', reason: 'mistake' as const };
      expect(refusalOf(await desk.call(contract.saveIdentity, future)).issues).toEqual([
        { path: 'birthDate', code: 'birth-in-future' },
      ]);
      expect(await record(before.id)).toMatchObject({ name: 'Tobias Lindqvist', version: before.version });
    });
  });

  it('tells the second of two who change one record, and overwrites nothing', async () => {
    const before = await someone('Una', 'Pemberley');
    const { id, version } = before;
    dataOf(await desk.call(contract.saveDetails, { id, version, staffNotes: 'Prefers mornings.' }));
    const late = await other.call(contract.saveDetails, { id, version, alert: 'Bring the referral.' });
    expect(refusalOf(late)).toMatchObject({ tag: 'ChangedMeanwhile', facts: { version: version + 1 } });
    expect(await record(id)).toMatchObject({ staffNotes: 'Prefers mornings.', alert: '' });
    const now = dataOf(
      await other.call(contract.saveDetails, { id, version: version + 1, alert: 'Bring the referral.' }),
    );
    expect(await record(id)).toMatchObject({ staffNotes: 'Prefers mornings.', alert: 'Bring the referral.' });
    // Only what was changed goes back.
    dataOf(await other.call(undo, { id: now.undo.id }));
    expect(await record(id)).toMatchObject({ staffNotes: 'Prefers mornings.', alert: '' });
  });

  it('keeps details, refuses what can’t be, and conditions by their codes', async () => {
    const { id, version } = await someone('Xanthe', 'Corbridge');
    const bad = { id, version, extraMin: 7, interpreter: 'Vietnamese please', homeSiteId: crypto.randomUUID() };
    const codes = refusalOf(await desk.send('post', contract.saveDetails.path, bad)).issues?.map(({ code }) => code);
    expect(codes).toEqual(expect.arrayContaining(['not-on-five-minutes', 'not-a-language']));
    const nowhere = await desk.send('post', contract.saveDetails.path, {
      id,
      version,
      homeSiteId: crypto.randomUUID(),
    });
    expect(refusalOf(nowhere as never).issues).toEqual([{ path: 'homeSiteId', code: 'unknown' }]);
    const details = {
      street: '4 Weir Road',
      interpreter: 'vi',
      access: ['step-free' as const],
      extraMin: 15,
      companion: 'Her son',
    };
    dataOf(await desk.call(contract.saveDetails, { id, version, ...details }));
    expect(await record(id)).toMatchObject(details);
    const typed = [
      { code: 'j45909', words: 'Asthma' },
      { code: 'L20.81', words: '' },
    ];
    const saved = dataOf(await desk.call(contract.saveCodes, { id, version: version + 1, codes: typed }));
    expect((await record(id)).codes).toEqual([
      { code: 'J45.909', words: 'Asthma' },
      { code: 'L20.81', words: '' },
    ]);
    const twice = [typed[0], { code: 'J45.909', words: '' }];
    expect(refusalOf(await desk.call(contract.saveCodes, { id, version: version + 2, codes: twice })).issues).toEqual([
      { path: 'codes.1.code', code: 'code-twice' },
    ]);
    dataOf(await desk.call(undo, { id: saved.undo.id }));
    expect((await record(id)).codes).toEqual([]);
  });

  describe('how it is reached', () => {
    it('adds, orders and removes, each undone', async () => {
      const { id, contacts } = await someone('Quentin', 'Ashgrove', '312-555-0151');
      const added = dataOf(
        await desk.call(contract.addContact, { id, contact: 'Q@Example.com', use: 'home', first: true }),
      );
      const values = async () => (await record(id)).contacts.map(({ value }) => value);
      expect(await values()).toEqual(['q@example.com', '+13125550151']);
      const again = await desk.call(contract.addContact, { id, contact: 'q@example.com', use: 'home', first: true });
      expect(refusalOf(again).issues).toEqual([{ path: 'contact', code: 'contact-there' }]);
      const [mail] = (await record(id)).contacts;
      const order = { id, contactIds: [contacts[0].id, mail.id] };
      const ordered = dataOf(await desk.call(contract.orderContacts, order));
      expect(await values()).toEqual(['+13125550151', 'q@example.com']);
      expect(refusalOf(await desk.call(contract.orderContacts, { id, contactIds: [mail.id] })).tag).toBe(
        'ChangedMeanwhile',
      );
      const removed = dataOf(await desk.call(contract.removeContact, { id, contactId: mail.id }));
      expect(await values()).toEqual(['+13125550151']);
      for (const { undo: way } of [removed, ordered, added]) dataOf(await desk.call(undo, { id: way.id }));
      expect(await values()).toEqual(['+13125550151']);
    });

    it('keeps the ledger with the number: of five who share it, one’s opt-out holds for all', async () => {
      const five = [];
      for (const name of ['Ana', 'Bea', 'Cal', 'Dov', 'Eli'])
        five.push(await someone(name, 'Sharewell', '312-555-0152'));
      const [first] = five;
      const contactId = first.contacts[0].id;
      expect((await record(first.id)).contacts[0].sharedBy).toBe(4);
      const { undo: way } = dataOf(
        await desk.call(contract.noteContact, { id: first.id, contactId, event: 'revoked' }),
      );
      for (const { id } of five)
        expect((await record(id)).contacts[0]).toMatchObject({ optedOut: true, isWrong: false });
      dataOf(await desk.call(undo, { id: way.id }));
      for (const { id } of five) expect((await record(id)).contacts[0].optedOut).toBe(false);
    });

    it('verifies for the one patient, and a wrong number is verified for nobody', async () => {
      const [one, two] = [
        await someone('Ivo', 'Twinbrook', '312-555-0153'),
        await someone('Ivy', 'Twinbrook', '312-555-0153'),
      ];
      const contactId = one.contacts[0].id;
      dataOf(await desk.call(contract.noteContact, { id: one.id, contactId, event: 'verified' }));
      expect((await record(one.id)).contacts[0].verifiedAt).not.toBeNull();
      expect((await record(two.id)).contacts[0].verifiedAt).toBeNull();
      dataOf(await desk.call(contract.noteContact, { id: two.id, contactId, event: 'wrong-number' }));
      expect((await record(one.id)).contacts[0]).toMatchObject({ isWrong: true, optedOut: true, verifiedAt: null });
      expect((await record(one.id)).contacts[0].ledger.map(({ event }) => event)).toEqual(['wrong-number', 'verified']);
    });
  });

  /** Somebody who has booked online and was made a patient, with reminders planned. */
  const whoComes = async (who: typeof MARTA) => {
    const { id: visit } = await bookedVisit(world.servers[0].url, 2, who);
    const row = dataOf(await other.call(listIdentityReview, {})).waiting.find(
      ({ appointmentId }) => appointmentId === visit,
    );
    dataOf(await other.call(createPerson, { id: visit, version: row?.version ?? 0 }));
    const { rows } = await world.sql.query<{ id: string; site: string; date: string }>(
      'select patient_id as id, site_id as site, site_date::text as date from appointment where id = $1',
      [visit],
    );
    return { visit, ...rows[0] };
  };
  const planned = async (visit: string) =>
    (
      await world.sql.query<{ n: number }>(
        "select count(*)::int as n from message where appointment_id = $1 and status = 'planned'",
        [visit],
      )
    ).rows[0].n;

  it('sends the reminders of a wrong number’s visits to the new number, and back if that was wrong', async () => {
    const { id, visit } = await whoComes({ ...MARTA, familyName: 'Thornbury', contact: '+13125550158' });
    const goTo = async () =>
      (
        await world.sql.query<{ value: string | null }>(
          `select distinct c.value from message m left join contact_point c on c.id = m.contact_point_id where m.appointment_id = $1 and m.kind = 'reminder' and m.status = 'planned' order by 1`,
          [visit],
        )
      ).rows.map(({ value }) => value);
    expect(await goTo()).toEqual(['+13125550158']);
    const [{ id: contactId }] = (await record(id)).contacts;
    const { undo: way } = dataOf(await desk.call(contract.noteContact, { id, contactId, event: 'wrong-number' }));
    expect(await goTo()).toEqual([]);
    const added = dataOf(
      await desk.call(contract.addContact, { id, contact: '312 555 0159', use: 'mobile', first: true }),
    );
    expect(await goTo()).toEqual(['+13125550159']);
    dataOf(await desk.call(undo, { id: added.undo.id }));
    dataOf(await desk.call(undo, { id: way.id }));
    expect(await goTo()).toEqual(['+13125550158']);
  });

  it('stops everything that is planned for who has died, silently, and brings it back if that was wrong', async () => {
    const { id, visit } = await whoComes({ ...MARTA, familyName: 'Halvorsen', contact: '+13125550156' });
    const { version, visits } = await record(id);
    const [before, coming] = [
      await planned(visit),
      visits.filter(({ upcoming, status }) => upcoming && status === 'booked'),
    ];
    expect(before).toBeGreaterThan(0);
    const messages = 'select count(*)::int as n from message';
    const [{ n: all }] = (await world.sql.query<{ n: number }>(messages)).rows;
    const saved = dataOf(
      await desk.call(contract.savePatientStatus, { id, version, status: 'deceased', deceasedOn: '2026-11-20' }),
    );
    expect(saved.canceled).toBe(coming.length);
    expect(await record(id)).toMatchObject({ status: 'deceased', deceasedOn: '2026-11-20' });
    expect((await record(id)).visits.find((row) => row.id === visit)?.status).toBe('cancelled');
    expect(await planned(visit)).toBe(0);
    // Nobody is written to about it.
    expect((await world.sql.query<{ n: number }>(messages)).rows[0].n).toBe(all);
    expect(await found((await record(id)).recordNumber)).toEqual([id]);
    dataOf(await desk.call(undo, { id: saved.undo.id }));
    expect((await record(id)).visits.find((row) => row.id === visit)?.status).toBe('booked');
    expect(await planned(visit)).toBeGreaterThan(0);
    expect((await record(id)).deceasedOn).toBeNull();
  });

  it('refuses dates of death that can’t be', async () => {
    const { id, version, birthDate } = await someone('Rollo', 'Eastmarch');
    const issues = async (deceasedOn: string, status: 'deceased' | 'active' = 'deceased') =>
      refusalOf(await desk.call(contract.savePatientStatus, { id, version, status, deceasedOn })).issues;
    expect(await issues('2090-01-01')).toEqual([{ path: 'deceasedOn', code: 'date-in-future' }]);
    expect(await issues(`${Number(birthDate.slice(0, 4)) - 1}-01-01`)).toEqual([
      { path: 'deceasedOn', code: 'before-birth' },
    ]);
    expect(await issues('2026-11-01', 'active')).toEqual([{ path: 'deceasedOn', code: 'only-deceased' }]);
  });

  it('joins a household and copies from there, gives no right by it, and leaves it again', async () => {
    const [first, second] = [
      await someone('Hal', 'Northcote', '312-555-0154'),
      await someone('Isa', 'Southcote', '312-555-0155'),
    ];
    dataOf(await desk.call(contract.saveDetails, { id: first.id, version: first.version, street: '9 Mill Row' }));
    const join = { id: second.id, withPatientId: first.id, copyAddress: true, copyContacts: true };
    const joined = dataOf(await desk.call(contract.joinHousehold, join));
    const isa = await record(second.id);
    expect(isa).toMatchObject({ street: '9 Mill Row', relationships: [] });
    expect(isa.contacts.map(({ value }) => value)).toEqual(['+13125550155', '+13125550154']);
    expect(isa.household?.members).toMatchObject([{ id: first.id, name: 'Hal Northcote' }]);
    dataOf(await desk.call(undo, { id: joined.undo.id }));
    expect(await record(second.id)).toMatchObject({ street: '', household: null });
    expect((await record(second.id)).contacts).toHaveLength(1);
    dataOf(await desk.call(contract.joinHousehold, { ...join, copyAddress: false, copyContacts: false }));
    dataOf(await desk.call(contract.leaveHousehold, { id: second.id }));
    expect((await record(second.id)).household).toBeNull();
    const alone = await desk.call(contract.joinHousehold, { ...join, withPatientId: second.id });
    expect(refusalOf(alone).issues).toEqual([{ path: 'withPatientId', code: 'oneself' }]);
  });

  describe('that is restricted', () => {
    it('is restricted and lifted with a reason by who may, and the trail says why', async () => {
      const { id, version } = await someone('Keturah', 'Whitlock');
      const restrict = { id, version, restricted: true, reason: 'Works here.' };
      expect(refusalOf(await desk.call(contract.restrict, restrict)).tag).toBe('NotAllowed');
      expect(refusalOf(await other.call(contract.restrict, { ...restrict, reason: '  ' })).issues?.[0].code).toBe(
        'reason-needed',
      );
      const saved = dataOf(await other.call(contract.restrict, restrict));
      expect(await record(id, other)).toMatchObject({ restricted: true, restrictedBecause: 'Works here.' });
      expect(refusalOf(await desk.call(contract.patientRecord, { id })).tag).toBe('NotAllowed');
      expect(await found('keturah whitlock')).toEqual([]);
      // Taking it back needs the right to restrict, whatever the account may do by then.
      const isNow = (from: string, to: string) =>
        world.sql.query(
          "update web_session set sess = jsonb_set(sess::jsonb, '{actor,role}', to_jsonb($2::text))::json where sess->'actor'->>'role' = $1 and sess->'actor'->>'name' = 'Ines Kessler'",
          [from, to],
        );
      await isNow('coordinator', 'front-desk');
      expect(refusalOf(await other.call(undo, { id: saved.undo.id })).tag).toBe('NotAllowed');
      await isNow('front-desk', 'coordinator');
      const lift = { id, version: saved.version, restricted: false, reason: 'Has left.' };
      dataOf(await other.call(contract.restrict, lift));
      expect(await record(id)).toMatchObject({ restricted: false, restrictedBecause: '' });
      const reasons = (await record(id)).trail.flatMap(({ changes }) =>
        changes.flatMap(({ field, after }) => (field === 'reason-given' ? [after] : [])),
      );
      expect(reasons).toEqual(['Has left.', 'Works here.']);
    });

    it('opens with a reason for an hour to the one who gave it, in the trail and on the visit, and tells a manager', async () => {
      const { id, visit, site, date } = await whoComes({
        ...MARTA,
        familyName: 'Winterbourne',
        contact: '+13125550157',
      });
      await world.sql.query('update patient set restricted = true where id = $1', [id]);
      const nameOnDay = async (client: Client) => {
        const { sites } = unfoldDay(dataOf(await client.call(daybookDay, { date, siteId: site as never })));
        return sites
          .flatMap(({ lanes }) => lanes.flatMap(({ plates }) => plates))
          .find(({ id: plate }) => plate === visit)?.name;
      };
      expect(await nameOnDay(desk)).toMatch(/^Restricted/);
      const reader = await signedIn(world.servers[0].url, 'read-only');
      expect(refusalOf(await reader.call(contract.openRestricted, { id, reason: 'Curious' })).tag).toBe('NotAllowed');
      expect(refusalOf(await desk.call(contract.openRestricted, { id, reason: '' })).issues?.[0].code).toBe(
        'reason-needed',
      );
      const { until } = dataOf(await desk.call(contract.openRestricted, { id, reason: 'Called about the visit.' }));
      expect(Date.parse(until)).toBeGreaterThan(Date.now() - 366 * 86_400_000);
      expect((await record(id)).restricted).toBe(true);
      expect(await nameOnDay(desk)).not.toMatch(/^Restricted/);
      expect(await nameOnDay(reader)).toMatch(/^Restricted/);
      const { trail } = await record(id, other);
      expect(trail.find(({ command }) => command === 'patients.openRestricted')?.by).toBeTruthy();
      // An hour later it is shut again.
      await world.sql.query(
        "update restricted_opening set at = at - interval '2 hours', until = until - interval '2 hours'",
      );
      expect(refusalOf(await desk.call(contract.patientRecord, { id })).tag).toBe('NotAllowed');
      await world.sql.query('update patient set restricted = false where id = $1', [id]);
      // A record that anybody may open needs no reason.
      expect(refusalOf(await desk.call(contract.openRestricted, { id, reason: 'No need.' })).tag).toBe('NotFound');
    });
  });

  it('is nobody’s to change once it was merged away, or for who may only read', async () => {
    const { id, version } = await someone('Zebedee', 'Archway');
    const reader = await signedIn(world.servers[0].url, 'read-only');
    expect(refusalOf(await reader.call(contract.saveDetails, { id, version, alert: 'x' })).tag).toBe('NotAllowed');
    await world.sql.query("update patient set status = 'archived' where id = $1", [id]);
    expect(refusalOf(await desk.call(contract.saveDetails, { id, version, alert: 'x' })).tag).toBe('NotAllowed');
    expect((await record(id)).mayEdit).toBe(false);
  });
});
