import { cancelVisit } from '@zaguan/contracts/booking';
import {
  simulatedCarriers,
  simulatedCarrier,
  simulatedClock,
  simulatedReply,
  visitMessages,
} from '@zaguan/contracts/messages';
import { cancelByLink, confirmByLink, lookAtLink, openLink } from '@zaguan/contracts/patientVisit';
import { undo } from '@zaguan/contracts/undo';
import { sendCode } from '@zaguan/contracts/verification';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startServer } from '../fixtures/server.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit, FOLLOW_UP, holding, MARTA } from '../fixtures/patient.ts';
import { linkOn } from '../fixtures/link.ts';
import { until } from '../fixtures/until.ts';
import { makeWorld, passMinutes, passUntil, type World } from '../fixtures/world.ts';

const NUMBER = '+13125550142';
const LINK = /\/v\/([\w-]{16})(?![\w-])/;

describe('messages', () => {
  let world: World;
  let base: string;
  let desk: Client;
  let nth = 0;
  beforeAll(async () => {
    world = await makeWorld('messages', { processes: 2 });
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const book = (person = MARTA) => bookedVisit(base, nth++ % 5, person);
  const phoneOf = async (number: string) =>
    dataOf(await desk.call(simulatedCarriers, {})).phones.find((phone) => phone.number === number)?.messages ?? [];
  const textsTo = async (number: string) =>
    (await phoneOf(number))
      .filter((message) => message.direction === 'to-patient' && !/\d{6}$/.test(message.body))
      .map((message) => message.body);
  const numberFor = (n: number) => ({ ...MARTA, contact: `+1720555${String(150 + n).padStart(4, '0')}` });

  it('confirms at once with clinic, date, time and link, not the visit type, and plans the reminders', async () => {
    const { id } = await book();
    const [text] = await until(async () => {
      const all = await textsTo(NUMBER);
      return all.length ? all : null;
    }, 'confirmation');
    expect(text).toMatch(
      /^Brindlewood Allergy & Asthma: booked \w{3}, Dec \d+, \d+:\d\d [ap]m\. Details or cancel: http/,
    );
    expect(text).toMatch(LINK);
    expect(text).not.toMatch(/follow/i);
    const { messages } = dataOf(await desk.call(visitMessages, { id }));
    expect(messages.map((message) => [message.kind, message.step])).toEqual(
      expect.arrayContaining([
        ['confirmation', null],
        ['reminder', '7-days'],
        ['reminder', '2-days'],
        ['reminder', '3-hours'],
      ]),
    );
    const [week] = messages.filter((message) => message.step === '7-days');
    expect(week).toMatchObject({ status: 'dropped', droppedCode: 'already-past' });
    // Nothing that opens the link is stored: neither the token nor the address.
    const { rows } = await world.sql.query(
      "select body from message where body ~ '/v/' union all select encode(token_hash, 'escape') from link_token where encode(token_hash, 'escape') ~ 'book'",
    );
    expect(rows).toEqual([]);
  });

  it('confirms by Y, and answers once', async () => {
    const person = numberFor(1);
    const { id } = await book(person);
    await until(async () => (await textsTo(person.contact)).length === 1, 'confirmation');
    expect(dataOf(await desk.call(simulatedReply, { number: person.contact, body: 'y' })).meaning).toBe('confirm');
    await until(async () => (await textsTo(person.contact)).at(-1)?.includes('thank you, we expect you'), 'thanks');
    const { rows } = await world.sql.query(
      'select confirmed_at is not null as confirmed from appointment where id = $1',
      [id],
    );
    expect(rows).toEqual([{ confirmed: true }]);
  });

  it('stops for the number that five people share when one of them says stop, and says how to cancel instead', async () => {
    const person = numberFor(2);
    const first = await book(person);
    const sharing = [first];
    for (const givenName of ['Sister', 'Aunt', 'Cousin']) sharing.push(await book({ ...person, givenName }));
    await until(async () => (await textsTo(person.contact)).length === 4, 'four confirmations');
    expect(dataOf(await desk.call(simulatedReply, { number: person.contact, body: 'Cancel' })).meaning).toBe('stop');
    await until(
      async () =>
        (await textsTo(person.contact)).at(-1)?.includes('no more automated texts. To change or cancel a visit call'),
      'answer',
    );
    for (const { id } of sharing) {
      const { messages } = dataOf(await desk.call(visitMessages, { id }));
      const left = messages.filter((message) => message.kind === 'reminder' && message.status === 'planned');
      expect(left).toEqual([]);
    }
    // The visit itself is untouched, and a later booking from this number plans nothing.
    expect((await world.sql.query('select status from appointment where id = $1', [first.id])).rows).toEqual([
      { status: 'booked' },
    ]);
    const fifth = await book({ ...person, givenName: 'Brother' });
    const { messages } = dataOf(await desk.call(visitMessages, { id: fifth.id }));
    expect(messages.every((message) => message.status === 'dropped' && message.droppedCode === 'opted-out')).toBe(true);
  });

  it('puts anything else into the inbox for a person', async () => {
    const person = numberFor(3);
    await book(person);
    await until(async () => (await textsTo(person.contact)).length === 1, 'confirmation');
    expect(
      dataOf(await desk.call(simulatedReply, { number: person.contact, body: 'Can I bring my dog?' })).meaning,
    ).toBe('other');
    const { rows } = await world.sql.query(
      "select meaning, handled_at from inbox_message where body = 'Can I bring my dog?'",
    );
    expect(rows).toEqual([{ meaning: 'other', handled_at: null }]);
  });

  it('withdraws reminders when the visit is cancelled, tells the patient, and corrects itself on undo', async () => {
    const person = numberFor(4);
    const { id } = await book(person);
    await until(async () => (await textsTo(person.contact)).length === 1, 'confirmation');
    const cancelled = dataOf(await desk.call(cancelVisit, { id, reason: 'provider-away', note: '', version: 1 }));
    await until(async () => (await textsTo(person.contact)).at(-1)?.includes('is canceled'), 'cancellation');
    expect(
      dataOf(await desk.call(visitMessages, { id })).messages.filter((message) => message.status === 'planned'),
    ).toEqual([]);
    expect((await desk.call(undo, { id: cancelled.undo.id })).status).toBe(200);
    await until(async () => (await textsTo(person.contact)).at(-1)?.includes('is back on'), 'correction');
  });

  it('sends what is due when the clock moves on, and waits out a carrier that is down', async () => {
    const person = numberFor(5);
    const { id, requested } = await book(person);
    await until(async () => (await textsTo(person.contact)).length === 1, 'confirmation');
    await desk.call(simulatedCarrier, { channel: 'sms', mode: 'down' });
    const reminder = dataOf(await desk.call(visitMessages, { id })).messages.find(
      (message) => message.status === 'planned',
    );
    const { now } = dataOf(await desk.call(simulatedCarriers, {}));
    const ahead = Math.ceil((Date.parse(reminder?.sendAt ?? requested.start) - Date.parse(now)) / 60_000) + 1;
    await desk.call(simulatedClock, { minutes: ahead });
    await until(
      async () =>
        dataOf(await desk.call(visitMessages, { id })).messages.some(
          (message) => message.failReason === 'carrier-down',
        ),
      'a failed try',
    );
    expect((await textsTo(person.contact)).length).toBe(1);
    await desk.call(simulatedCarrier, { channel: 'sms', mode: 'works' });
    await desk.call(simulatedClock, { minutes: 5 });
    await until(async () => (await textsTo(person.contact)).at(-1)?.includes('see you'), 'reminder');
  });

  it('shows clinic and date, and the visit after the date of birth; five wrong ones lock it; GET never acts', async () => {
    const person = { ...numberFor(6), birthDate: '1990-02-03' };
    const { id } = await book(person);
    const [text] = await until(async () => {
      const all = await textsTo(person.contact);
      return all.length ? all : null;
    }, 'confirmation');
    const token = LINK.exec(text)?.[1] ?? '';
    const phone = new Client(base);
    const look = dataOf(await phone.call(lookAtLink, { token }));
    expect(Object.keys(look).sort()).toEqual(['clinic', 'date', 'locked', 'phone']);
    const enter = (birthDate: string) => phone.call(openLink, { token, birthDate, language: 'en' });
    expect(refusalOf(await enter('1990-02-04'))).toMatchObject({ tag: 'WrongBirthDate', facts: { left: 4 } });
    expect(dataOf(await enter('1990-02-03')).visit).toMatchObject({
      status: 'booked',
      confirmed: false,
      visitType: 'Follow-up visit',
    });
    for (let i = 0; i < 4; i++) expect(refusalOf(await enter('1990-02-04')).tag).toBe('WrongBirthDate');
    expect(refusalOf(await enter('1990-02-04')).tag).toBe('LinkLocked');
    expect(refusalOf(await enter('1990-02-03')).tag).toBe('LinkLocked');
    expect((await world.sql.query('select confirmed_at, status from appointment where id = $1', [id])).rows).toEqual([
      { confirmed_at: null, status: 'booked' },
    ]);
    const altered = `${token.slice(0, -1)}${token.endsWith('A') ? 'B' : 'A'}`;
    expect(refusalOf(await phone.call(lookAtLink, { token: altered })).tag).toBe('LinkGone');
  });

  it('opens nothing with somebody else’s link, nor with one that has run out', async () => {
    const mine = await book({ ...numberFor(8), birthDate: '1992-02-03' });
    const foreign = { token: await linkOn(world, mine.id), birthDate: '1950-05-05', language: 'en' as const };
    expect(refusalOf(await new Client(base).call(openLink, foreign)).tag).toBe('WrongBirthDate');
    const own = { ...foreign, birthDate: '1992-02-03' };
    expect(dataOf(await new Client(base).call(openLink, own)).visit.calendar).toContain('METHOD:PUBLISH');
    // Until 24 hours after the end, exactly at which it is gone.
    const expire = (when: string) =>
      world.sql.query(
        `update link_token set expires_at = now() + (select offset_ms from domain_clock) * interval '1 millisecond' + interval '${when}' where kind = 'visit' and subject_id = $1`,
        [mine.id],
      );
    await expire('1 minute');
    expect((await new Client(base).call(openLink, own)).status).toBe(200);
    await expire('0 seconds');
    expect(refusalOf(await new Client(base).call(openLink, own)).tag).toBe('LinkGone');
    expect(refusalOf(await new Client(base).call(lookAtLink, { token: own.token })).tag).toBe('LinkGone');
  });

  it('confirms and cancels by link, and frees the time', async () => {
    const person = { ...numberFor(7), birthDate: '1991-02-03' };
    const { id } = await book(person);
    const [text] = await until(async () => {
      const all = await textsTo(person.contact);
      return all.length ? all : null;
    }, 'confirmation');
    const who = { token: LINK.exec(text)?.[1] ?? '', birthDate: person.birthDate, language: 'en' as const };
    const phone = new Client(base);
    expect(dataOf(await phone.call(confirmByLink, who)).visit.confirmed).toBe(true);
    expect(dataOf(await phone.call(cancelByLink, who)).visit).toMatchObject({ status: 'cancelled', mayCancel: false });
    expect(dataOf(await phone.call(cancelByLink, who)).visit.status).toBe('cancelled');
    expect(refusalOf(await phone.call(confirmByLink, who)).tag).toBe('WrongStatus');
    expect((await world.sql.query('select 1 from occupancy where appointment_id = $1', [id])).rows).toEqual([]);
  });

  it.each(['before-hand-over', 'after-hand-over', 'before-recording'])(
    'loses none and shows none twice when the server is killed %s',
    async (point) => {
      const fault = await makeWorld(`fault_${point.replaceAll('-', '_')}`, { processes: 0 });
      const doomed = await startServer(fault.url, { ZAGUAN_FAILPOINT: point, ZAGUAN_PROOF: 'no' });
      const died = new Promise((resolve) => doomed.process.once('exit', resolve));
      const phone = await holding(doomed.url);
      // It may die before it has answered; the message stands all the same.
      await phone.call(sendCode, { contact: MARTA.contact, language: 'en' }).catch(() => undefined);
      await died;
      expect(doomed.process.signalCode).toBe('SIGKILL');
      const successor = await startServer(fault.url);
      const look = async () =>
        (await fault.sql.query<{ status: string }>("select status from message where kind = 'code'")).rows[0]
          ?.status === 'delivered';
      await until(look, 'the code after the crash');
      const { rows } = await fault.sql.query(
        "select count(*)::int as shown from simulated.sms where direction = 'to-patient'",
      );
      expect(rows).toEqual([{ shown: 1 }]);
      await successor.stop();
      await fault.close();
    },
  );

  describe('at night', () => {
    let night: World;
    let staff: Client;
    beforeAll(async () => {
      night = await makeWorld('night');
      staff = await signedIn(night.servers[0].url, 'coordinator');
    });
    afterAll(() => night.close());
    const of = async (id: string, kind: string) =>
      dataOf(await staff.call(visitMessages, { id })).messages.filter((message) => message.kind === kind);
    const carrier = (mode: 'works' | 'down') => staff.call(simulatedCarrier, { channel: 'sms', mode });
    /** A visit of the day after tomorrow, confirmed by a text that came. */
    const upcoming = async (n: number, contact: string) => {
      const { id } = await bookedVisit(night.servers[0].url, n, { ...MARTA, contact });
      await until(async () => (await of(id, 'confirmation')).some(({ status }) => status === 'delivered'), 'confirmed');
      return id;
    };
    /** The clock stands so many minutes before the visit begins. */
    const setBefore = async (id: string, minutes: number) => {
      const { rows } = await night.sql.query<{ minutes: number }>(
        "select (extract(epoch from starts_at - (clock_timestamp() + offset_ms * interval '1 millisecond')) / 60)::float8 as minutes from appointment, domain_clock where id = $1",
        [id],
      );
      await passMinutes(night, Math.round(rows[0].minutes - minutes));
    };

    it('holds reminders that a carrier kept from going out by day until the morning, and sends the later one only', async () => {
      const id = await upcoming(0, '+17205550171');
      await carrier('down');
      // Two steps come due while nothing gets out; then it is night.
      await setBefore(id, 2 * 24 * 60 - 30);
      await until(async () => (await of(id, 'reminder')).every(({ status }) => status !== 'sent'), 'nothing out');
      await passUntil(night, 23 * 60 + 11);
      await night.sql.query(
        "update message set send_at = send_at - interval '3 days', next_attempt_at = next_attempt_at - interval '3 days' where appointment_id = $1 and step = '3-hours'",
        [id],
      );
      await carrier('works');
      await until(async () => (await of(id, 'reminder')).some(({ heldCode }) => heldCode !== null), 'held');
      const reminders = await of(id, 'reminder');
      const due = reminders.filter(({ step }) => step !== '7-days');
      expect(due.filter(({ status }) => status === 'planned')).toMatchObject([{ heldCode: 'quiet-hours' }]);
      expect(due.filter(({ droppedCode }) => droppedCode === 'superseded')).toHaveLength(1);
      expect(due.some(({ status }) => status === 'sent' || status === 'delivered')).toBe(false);
      await passUntil(night, 8 * 60 + 1);
      await until(async () => (await of(id, 'reminder')).some(({ status }) => status === 'delivered'), 'the morning');
    });

    it('tells at once of a cancellation within twelve hours, and holds one that is further off', async () => {
      const soon = await upcoming(1, '+17205550172');
      const later = await upcoming(2, '+17205550173');
      const cancel = async (id: string) => {
        const { rows } = await night.sql.query<{ version: number }>('select version from appointment where id = $1', [
          id,
        ]);
        dataOf(await staff.call(cancelVisit, { id, reason: 'provider-away', note: '', version: rows[0].version }));
      };
      await setBefore(soon, 36 * 60);
      await passUntil(night, 22 * 60);
      const { rows } = await night.sql.query<{ hours: number }>(
        "select (extract(epoch from starts_at - (clock_timestamp() + offset_ms * interval '1 millisecond')) / 3600)::float8 as hours from appointment, domain_clock where id = $1",
        [later],
      );
      expect(rows[0].hours).toBeGreaterThan(12);
      await cancel(later);
      await until(async () => (await of(later, 'cancellation'))[0]?.heldCode === 'quiet-hours', 'held');
      await passUntil(night, 22 * 60 + 30);
      await setBefore(soon, 11 * 60);
      await passMinutes(night, 0);
      await cancel(soon);
      await until(async () => (await of(soon, 'cancellation'))[0]?.status === 'delivered', 'told at once');
    });
  });

  it('keeps the Postroom shut where no demo runs', async () => {
    const real = await makeWorld('messages_real', { env: { ZAGUAN_DEMO: 'no' } });
    const coordinator = await signedIn(real.servers[0].url, 'coordinator');
    expect(refusalOf(await coordinator.call(simulatedCarriers, {})).tag).toBe('NotFound');
    await real.close();
    expect(FOLLOW_UP.kind).toBe('established');
  });
});
