import { bookHeld, placeHold } from '@zaguan/contracts/booking';
import { undo } from '@zaguan/contracts/undo';
import { createPerson, discardBooking, linkPerson, listIdentityReview } from '@zaguan/contracts/identityReview';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit, FOLLOW_UP, freeTime, MARTA, verify } from '../fixtures/patient.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

describe('who is this', () => {
  let world: World;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('identity_review');
    desk = await signedIn(world.servers[0].url, 'coordinator');
  });
  afterAll(() => world.close());

  const waiting = async () => dataOf(await desk.call(listIdentityReview, {})).waiting;
  const appointment = async (id: string) =>
    (
      await world.sql.query<{ identity: string; patient_id: string | null; status: string }>(
        'select identity, patient_id, status from appointment where id = $1',
        [id],
      )
    ).rows[0];

  it('opens on the demo’s three: a married name with its record, a stranger, a fake', async () => {
    const [married, stranger, fake] = await waiting();
    expect(married.candidates[0]).toMatchObject({
      verdict: 'likely',
      fields: { 'given-name': 'agrees', 'birth-date': 'agrees', contact: 'agrees', 'family-name': 'differs' },
    });
    expect(stranger.candidates.filter((candidate) => candidate.verdict === 'likely')).toEqual([]);
    expect(fake.givenName).toBe('Asdf');
  });

  it('links to the record, and undoes it', async () => {
    const [row] = await waiting();
    const { patientId } = row.candidates[0];
    const linked = dataOf(await desk.call(linkPerson, { id: row.appointmentId, patientId, version: row.version }));
    expect(await appointment(row.appointmentId)).toMatchObject({ identity: 'sure', patient_id: patientId });
    expect(
      refusalOf(await desk.call(linkPerson, { id: row.appointmentId, patientId, version: row.version + 1 })).tag,
    ).toBe('DecidedAlready');
    expect((await desk.call(undo, { id: linked.undo.id })).status).toBe(200);
    expect(await appointment(row.appointmentId)).toMatchObject({ identity: 'unknown', patient_id: null });
  });

  it('makes a record of its own, never over another one, and takes it back', async () => {
    const { id } = await bookedVisit(world.servers[0].url, 0, { ...MARTA, familyName: 'Nováková' });
    const row = (await waiting()).find((each) => each.appointmentId === id);
    const before = await world.sql.query<{ n: number }>('select count(*)::int as n from patient');
    const created = dataOf(await desk.call(createPerson, { id, version: row?.version ?? 0 }));
    const { rows } = await world.sql.query(
      'select p.family_name, p.birth_date::text, p.status, cp.value as phone from patient p join patient_contact pc on pc.patient_id = p.id join contact_point cp on cp.id = pc.contact_point_id where p.record_number = $1',
      [created.recordNumber],
    );
    expect(rows).toEqual([
      { family_name: 'Nováková', birth_date: MARTA.birthDate, status: 'new', phone: '+13125550142' },
    ]);
    expect((await desk.call(undo, { id: created.undo.id })).status).toBe(200);
    expect((await world.sql.query('select count(*)::int as n from patient')).rows).toEqual(before.rows);
  });

  it('cancels what is not genuine, frees the time, and brings it back on undo', async () => {
    const { id } = await bookedVisit(world.servers[0].url, 1, { ...MARTA, givenName: 'Joke' });
    const row = (await waiting()).find((each) => each.appointmentId === id);
    const gone = dataOf(await desk.call(discardBooking, { id, version: row?.version ?? 0 }));
    expect(await appointment(id)).toMatchObject({ status: 'cancelled' });
    expect((await waiting()).map((each) => each.appointmentId)).not.toContain(id);
    expect((await desk.call(undo, { id: gone.undo.id })).status).toBe(200);
    expect((await waiting()).map((each) => each.appointmentId)).toContain(id);
  });

  it('refuses an old version, a record that is not there, and a role that may not decide', async () => {
    const [row] = await waiting();
    expect(refusalOf(await desk.call(createPerson, { id: row.appointmentId, version: 99 })).tag).toBe(
      'ChangedMeanwhile',
    );
    expect(
      refusalOf(
        await desk.call(linkPerson, {
          id: row.appointmentId,
          version: row.version,
          patientId: '00000000-0000-4000-8000-000000000000',
        }),
      ).tag,
    ).toBe('NotFound');
    const front = await signedIn(world.servers[0].url, 'front-desk');
    expect(refusalOf(await front.call(listIdentityReview, {})).tag).toBe('NotAllowed');
  });

  it('finds swapped names, and writes who looked at whose record', async () => {
    const { rows } = await world.sql.query<{ id: string; given_name: string; family_name: string; birth_date: string }>(
      "select id, given_name, family_name, birth_date::text from patient where status = 'active' limit 1",
    );
    const { id } = await bookedVisit(world.servers[0].url, 2, {
      ...MARTA,
      givenName: rows[0].family_name,
      familyName: rows[0].given_name,
      birthDate: rows[0].birth_date,
    });
    const row = (await waiting()).find((each) => each.appointmentId === id);
    expect(row?.candidates[0]).toMatchObject({
      patientId: rows[0].id,
      verdict: 'likely',
      fields: { 'family-name': 'alike', 'given-name': 'alike', 'birth-date': 'agrees' },
    });
    const reads = await world.sql.query(
      "select 1 from audit_entry where kind = 'read' and command = 'identityReview.list' and subjects @> $1::jsonb",
      [JSON.stringify([{ id: rows[0].id }])],
    );
    expect(reads.rows.length).toBeGreaterThan(0);
  });

  it('knows the person by itself the next time: same name, birth date and proved number', async () => {
    const base = world.servers[0].url;
    const { rows } = await world.sql.query<{ id: string; given_name: string; family_name: string; birth_date: string }>(
      "select id, given_name, family_name, birth_date::text from patient where status = 'active' order by record_number desc limit 1",
    );
    const [record] = rows;
    const person = {
      ...MARTA,
      givenName: record.given_name,
      familyName: record.family_name,
      birthDate: record.birth_date,
      contact: '+13125550155',
    };
    const first = await bookedVisit(base, 3, person);
    const row = (await waiting()).find((each) => each.appointmentId === first.id);
    const linked = dataOf(
      await desk.call(linkPerson, { id: first.id, patientId: record.id, version: row?.version ?? 0 }),
    );
    const second = await bookedVisit(base, 4, person);
    expect(await appointment(second.id)).toMatchObject({ identity: 'sure', patient_id: record.id });
    expect((await waiting()).map((each) => each.appointmentId)).not.toContain(second.id);
    const other = await bookedVisit(base, 0, { ...person, familyName: 'Otherwise' });
    expect(await appointment(other.id)).toMatchObject({ identity: 'unknown', patient_id: null });
    // Taking the decision back takes the proof back.
    expect((await desk.call(undo, { id: linked.undo.id })).status).toBe(200);
    const third = await bookedVisit(base, 1, person);
    expect(await appointment(third.id)).toMatchObject({ identity: 'unknown', patient_id: null });
  });

  it('takes no birth date from before 1900 or after today, and nothing typed is lost', async () => {
    const base = world.servers[0].url;
    const requested = await freeTime(base, FOLLOW_UP, 5);
    const client = new Client(base);
    const { hold } = dataOf(await client.call(placeHold, requested));
    await verify(client, MARTA.contact, world.sql);
    const book = (birthDate: string) =>
      client.call(bookHeld, { holdId: hold.id, requested, language: 'en', person: { ...MARTA, birthDate } });
    for (const birthDate of ['1899-12-31', '0001-01-01', '2200-01-01', '2127-01-01', '1987-02-31'])
      expect(refusalOf(await book(birthDate)).issues?.map(({ path }) => path)[0], birthDate).toBe('person.birthDate');
    // The time is still kept, and the right date books it.
    expect((await book('1987-03-04')).status).toBe(200);
    await expect(world.sql.query("update self_booking set birth_date = '1899-12-31'")).rejects.toThrow('birth_date');
  });

  it('names a row that can’t be shown, and shows the others', async () => {
    const before = dataOf(await desk.call(listIdentityReview, {}));
    expect(before.waiting.length).toBeGreaterThan(2);
    const [bad] = before.waiting;
    await world.sql.query('alter table self_booking drop constraint self_booking_birth_date_range');
    await world.sql.query("update self_booking set birth_date = '0001-01-01' where appointment_id = $1", [
      bad.appointmentId,
    ]);
    const after = dataOf(await desk.call(listIdentityReview, {}));
    expect(after.waiting.map(({ appointmentId }) => appointmentId)).toEqual(
      before.waiting.slice(1).map(({ appointmentId }) => appointmentId),
    );
    expect(after.unreadable).toEqual([bad.appointmentId]);
  });
});
