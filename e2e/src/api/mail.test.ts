import { bookHeld, cancelVisit, moveVisit, placeHold } from '@zaguan/contracts/booking';
import {
  simulatedCarriers,
  simulatedCarrier,
  simulatedClock,
  simulatedMail,
  visitMessages,
} from '@zaguan/contracts/messages';
import { findOpenings } from '@zaguan/contracts/openings';
import { openLink } from '@zaguan/contracts/patientVisit';
import { todaysWork } from '@zaguan/contracts/today';
import { undo } from '@zaguan/contracts/undo';
import { sendCode } from '@zaguan/contracts/verification';
import { addDays } from '@zaguan/core/time';
import ICAL from 'ical.js';
import { type ParsedMail, simpleParser } from 'mailparser';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { linkOn } from '../fixtures/link.ts';
import { bookedVisit, FOLLOW_UP, freeTime, holding, MARTA, verify } from '../fixtures/patient.ts';
import { until } from '../fixtures/until.ts';
import { makeWorld, type World, passUntil } from '../fixtures/world.ts';

describe('messages by e-mail, and what carriers report', () => {
  let world: World;
  let base: string;
  let desk: Client;
  let nth = 0;
  beforeAll(async () => {
    world = await makeWorld('mail', { processes: 2 });
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const book = async (contact?: string) => {
    const n = nth++;
    const person = { ...MARTA, contact: contact ?? `marta${n}@example.com` };
    const { id } = await bookedVisit(base, n % 5, person);
    return { id, contact: person.contact };
  };
  const mails = async (address: string): Promise<ParsedMail[]> => {
    const { rows } = await world.sql.query<{ raw: Buffer }>(
      'select raw from simulated.mail where address = $1 order by seq',
      [address],
    );
    const parsed = await Promise.all(rows.map(({ raw }) => simpleParser(raw)));
    return parsed.filter(({ subject }) => !/code/.test(subject ?? ''));
  };
  const mailed = (address: string, n: number) =>
    until(async () => {
      const all = await mails(address);
      return all.length >= n ? all : null;
    }, `${n} mails`);
  const messages = async (id: string) => dataOf(await desk.call(visitMessages, { id })).messages;
  const calendarIn = (mail: ParsedMail) => {
    const part = mail.attachments.find(({ contentType }) => contentType === 'text/calendar');
    const component = new ICAL.Component(ICAL.parse(part?.content.toString('utf8') ?? ''));
    const event = component.getFirstSubcomponent('vevent');
    const value = (name: string) => String(event?.getFirstPropertyValue(name));
    return {
      method: component.getFirstPropertyValue('method'),
      uid: value('uid'),
      sequence: Number(value('sequence')),
      status: value('status'),
      start: new ICAL.Event(event ?? undefined).startDate.toJSDate().toISOString(),
      summary: value('summary'),
      organizer: value('organizer'),
      // A scheme has no case (RFC 3986).
      attendee: value('attendee').replace('MAILTO:', 'mailto:'),
    };
  };
  const carrier = (channel: 'sms' | 'email', mode: 'works' | 'down' | 'refuses') =>
    desk.call(simulatedCarrier, { channel, mode });

  /** Headers by RFC 5322 and RFC 8058, the object by RFC 5545 and RFC 5546, each read back by a library of its own. */
  it('sends code and confirmation to who has no cell phone, with the visit as a REQUEST', async () => {
    const { id, contact } = await book();
    const [mail] = await mailed(contact, 1);
    expect(mail.subject).toBe('Brindlewood Allergy & Asthma: you are booked');
    expect(mail.from?.value).toEqual([{ address: 'clinic@example.com', name: 'Brindlewood Allergy & Asthma' }]);
    expect(mail.messageId).toMatch(/^<[0-9a-f-]{36}@zaguan\.invalid>$/);
    expect(mail.text).toMatch(/\w+day, December \d+, \d+:\d\d [AP]M CT/);
    expect(mail.text).toMatch(/\/v\/[\w-]{16}\s/);
    expect(mail.text).not.toMatch(/follow/i);
    const list = mail.headers.get('list') as { unsubscribe?: { url: string }; 'unsubscribe-post'?: unknown };
    expect(list.unsubscribe?.url).toMatch(/\/book\/stop\/[\w-]{64}$/);
    expect(JSON.stringify(list['unsubscribe-post'])).toContain('One-Click');
    const { rows } = await world.sql.query<{ starts_at: Date }>('select starts_at from appointment where id = $1', [
      id,
    ]);
    expect(calendarIn(mail)).toEqual({
      method: 'REQUEST',
      uid: `${id}@zaguan.invalid`,
      sequence: 0,
      status: 'CONFIRMED',
      start: rows[0].starts_at.toISOString(),
      summary: 'Appointment, Brindlewood Allergy & Asthma',
      organizer: 'mailto:clinic@example.com',
      attendee: `mailto:${contact}`,
    });
    const token = await linkOn(world, id);
    const opened = await new Client(base).call(openLink, { token, birthDate: MARTA.birthDate, language: 'en' });
    expect(dataOf(opened).visit.status).toBe('booked');
  });

  it('moves a visit, tells the new time as the same event with a higher SEQUENCE, and cancels it with CANCEL', async () => {
    const { id, contact } = await book();
    await mailed(contact, 1);
    const { rows } = await world.sql.query<{ date: string; starts_at: Date }>(
      'select site_date::text as date, starts_at from appointment where id = $1',
      [id],
    );
    const { openings } = dataOf(
      await desk.call(findOpenings, {
        ...FOLLOW_UP,
        channel: 'desk',
        from: addDays(rows[0].date, 2),
        days: 5,
        movingId: id,
      }),
    );
    // Late enough that three hours before it is not quiet.
    const [to] = openings.filter(({ start }) => new Date(start).getUTCHours() >= 17);
    const input = { id, version: 1, start: to.start, providerId: to.providerId };
    const moved = dataOf(await desk.call(moveVisit, input));
    const [, told] = await mailed(contact, 2);
    expect(told.subject).toContain('a new time');
    expect(calendarIn(told)).toMatchObject({
      method: 'REQUEST',
      uid: `${id}@zaguan.invalid`,
      sequence: 1,
      start: to.start,
    });
    // What was sent stays as it was sent: the date it spoke of, and where it went.
    const log = await world.sql.query<{ kind: string; date: string; address: string }>(
      `select kind, visit_date::text as date, address from message where appointment_id = $1 and kind in ('confirmation', 'moved') order by seq`,
      [id],
    );
    expect(log.rows).toEqual([
      { kind: 'confirmation', date: rows[0].date, address: contact },
      { kind: 'moved', date: moved.date, address: contact },
    ]);
    expect(moved.date).not.toBe(rows[0].date);
    const after = await messages(id);
    const planned = after.filter(({ status }) => status === 'planned');
    expect(planned.length).toBeGreaterThan(0);
    expect(after.filter(({ status }) => status === 'withdrawn').length).toBeGreaterThan(0);
    for (const { step, sendAt } of planned.filter(({ step: each }) => each === '3-hours'))
      expect([step, Date.parse(to.start) - Date.parse(sendAt)]).toEqual(['3-hours', 3 * 3_600_000]);
    // The old time is free, the new one is taken, and only once.
    expect(refusalOf(await desk.call(moveVisit, input)).tag).toBe('ChangedMeanwhile');
    const other = await book();
    expect(refusalOf(await desk.call(moveVisit, { ...input, id: other.id, version: 1 })).tag).toBe('TimeTaken');
    dataOf(await desk.call(undo, { id: moved.undo.id }));
    expect((await world.sql.query('select starts_at from appointment where id = $1', [id])).rows[0].starts_at).toEqual(
      rows[0].starts_at,
    );
    await mailed(contact, 3);
    dataOf(await desk.call(cancelVisit, { id, reason: 'provider-away', note: '', version: moved.version + 1 }));
    const off = (await mailed(contact, 4))[3];
    expect(calendarIn(off)).toMatchObject({
      method: 'CANCEL',
      uid: `${id}@zaguan.invalid`,
      sequence: 3,
      status: 'CANCELLED',
    });
    expect(refusalOf(await desk.call(moveVisit, { ...input, version: moved.version + 2 })).tag).toBe('WrongStatus');
  });

  it('never leaves a reminder for the old time when a visit moves while it is being sent', async () => {
    const { id } = await book('+17205550171');
    await until(async () => (await messages(id)).some(({ status }) => status === 'delivered'), 'the confirmation');
    const reminder = (await messages(id)).find(({ status, kind }) => status === 'planned' && kind === 'reminder');
    const { rows } = await world.sql.query<{ date: string; starts_at: Date }>(
      'select site_date::text as date, starts_at from appointment where id = $1',
      [id],
    );
    const { openings } = dataOf(
      await desk.call(findOpenings, {
        ...FOLLOW_UP,
        channel: 'desk',
        from: addDays(rows[0].date, 3),
        days: 6,
        movingId: id,
      }),
    );
    const [to] = openings;
    const { now } = dataOf(await desk.call(simulatedCarriers, {}));
    const ahead = Math.ceil((Date.parse(reminder?.sendAt ?? '') - Date.parse(now)) / 60_000);
    await desk.call(simulatedClock, { minutes: ahead });
    const { id: _, ...rest } = {
      ...dataOf(await desk.call(moveVisit, { id, version: 1, start: to.start, providerId: to.providerId })),
      id,
    };
    expect(rest.date).toBeTruthy();
    await until(
      async () => (await messages(id)).some(({ kind, status }) => kind === 'moved' && status === 'delivered'),
      'the new time',
    );
    const after = await messages(id);
    const old = after.find((message) => message.id === reminder?.id);
    // It went out before the move or was taken back by it; either way the patient was told the new time after it.
    expect(['withdrawn', 'sent', 'delivered']).toContain(old?.status);
    const { rows: phone } = await world.sql.query<{ body: string }>(
      "select body from simulated.sms where number = '+17205550171' and direction = 'to-patient' and body !~ 'code' order by seq",
    );
    expect(phone.at(-1)?.body).toContain('has a new time');
    await desk.call(simulatedClock, { minutes: 1 });
  });

  it('confirms the new time only, when a visit moves before its confirmation went out', async () => {
    await carrier('email', 'down');
    // The code comes by text, the confirmation would go by e-mail: only the carrier of the latter is down.
    const { id, contact } = await (async () => {
      await carrier('email', 'works');
      const client = new Client(base);
      const requested = await freeTime(base, FOLLOW_UP, 5);
      const { hold } = dataOf(await client.call(placeHold, requested));
      const person = { ...MARTA, contact: 'slow@example.com' };
      await verify(client, person.contact);
      await carrier('email', 'down');
      const { visit } = dataOf(await client.call(bookHeld, { holdId: hold.id, requested, person, language: 'en' }));
      const tried = 'select 1 from message where appointment_id = $1 and attempts > 0';
      // Refused, not still on its way with the old time.
      await until(async () => (await world.sql.query(tried, [visit.id])).rowCount, 'the carrier has refused it');
      return { id: visit.id, contact: person.contact };
    })();
    const { rows } = await world.sql.query<{ date: string }>(
      'select site_date::text as date from appointment where id = $1',
      [id],
    );
    const { openings } = dataOf(
      await desk.call(findOpenings, {
        ...FOLLOW_UP,
        channel: 'desk',
        from: addDays(rows[0].date, 1),
        days: 5,
        movingId: id,
      }),
    );
    const [to] = openings;
    dataOf(await desk.call(moveVisit, { id, version: 1, start: to.start, providerId: to.providerId }));
    await carrier('email', 'works');
    await desk.call(simulatedClock, { minutes: 3 });
    const [only, ...more] = await mailed(contact, 1);
    expect(calendarIn(only)).toMatchObject({ method: 'REQUEST', sequence: 1, start: to.start });
    expect([only.subject, more]).toEqual([expect.stringContaining('you are booked'), []]);
  });

  it('stops by one click from a mail program, and opening the link does nothing', async () => {
    const { id, contact } = await book();
    const [mail] = await mailed(contact, 1);
    const { unsubscribe } = mail.headers.get('list') as { unsubscribe: { url: string } };
    const url = `${base}${new URL(unsubscribe.url).pathname}`;
    expect((await fetch(url)).headers.get('content-type')).toContain('text/html');
    expect((await messages(id)).some(({ status }) => status === 'planned')).toBe(true);
    const click = (where: string) =>
      fetch(where, {
        method: 'POST',
        headers: { 'content-type': 'application/x-www-form-urlencoded' },
        body: 'List-Unsubscribe=One-Click',
      });
    expect((await click(`${url.slice(0, -2)}AA`)).status).toBe(404);
    expect((await click(url)).status).toBe(200);
    expect((await click(url)).status).toBe(200);
    expect((await messages(id)).filter(({ status }) => status === 'planned')).toEqual([]);
    const { rows } = await world.sql.query(
      "select count(*)::int as n from contact_ledger l join contact_point c on c.id = l.contact_point_id where c.value = $1 and l.event = 'revoked'",
      [contact],
    );
    expect(rows).toEqual([{ n: 1 }]);
  });

  it('asks again at the last moment whether someone said stop in between', async () => {
    const { id, contact } = await book();
    await mailed(contact, 1);
    // Past our own withdrawing, as when the word comes in while the message is on its way.
    await world.sql.query(
      "insert into contact_ledger (id, contact_point_id, event, purpose, how, at) select gen_random_uuid(), id, 'revoked', 'visit-messages', 'reply', now() + interval '400 days' from contact_point where value = $1",
      [contact],
    );
    const planned = (await messages(id)).find(({ status }) => status === 'planned');
    const { now } = dataOf(await desk.call(simulatedCarriers, {}));
    await desk.call(simulatedClock, {
      minutes: Math.ceil((Date.parse(planned?.sendAt ?? '') - Date.parse(now)) / 60_000) + 1,
    });
    await until(async () => (await messages(id)).some(({ droppedCode }) => droppedCode === 'opted-out'), 'the drop');
    expect(await mails(contact)).toHaveLength(1);
  });

  it('reads an answer by e-mail without what it quotes', async () => {
    const { id, contact } = await book();
    await mailed(contact, 1);
    dataOf(
      await desk.call(simulatedMail, {
        address: contact,
        body: 'Y\n\nOn Tue, Dec 1, 2026 the clinic wrote:\n> Can I come? STOP',
      }),
    );
    await until(
      async () =>
        (await world.sql.query('select 1 from appointment where id = $1 and confirmed_at is not null', [id])).rows
          .length,
      'the confirmation',
    );
    const [, thanks] = await mailed(contact, 2);
    expect(thanks.text).toContain('we expect you');
    expect(thanks.headers.get('auto-submitted')).toBe('auto-generated');
    dataOf(await desk.call(simulatedMail, { address: contact, body: 'Do you have a lift?' }));
    const row = await until(
      async () =>
        dataOf(await desk.call(todaysWork, {})).work.find(
          (each) => each.kind === 'inbox' && each.body === 'Do you have a lift?',
        ),
      'the inbox',
    );
    expect(row).toMatchObject({ contact, visit: { appointmentId: id } });
  });

  it('makes work of a bounce (RFC 3464) and of an address that is refused, and waits out a server that is down', async () => {
    await desk.call(simulatedCarrier, { channel: 'email', mode: 'bounces' });
    const bounced = await holding(base);
    dataOf(await bounced.call(sendCode, { contact: 'gone@example.org', language: 'en' }));
    const failed = (contact: string, reason: string) =>
      until(
        async () =>
          dataOf(await desk.call(todaysWork, {})).work.find(
            (each) => each.kind === 'failed' && each.contact === contact && each.reason === reason,
          ),
        reason,
      );
    await failed('gone@example.org', 'bounced');
    await carrier('email', 'refuses');
    dataOf(await (await holding(base)).call(sendCode, { contact: 'nobody@example.org', language: 'en' }));
    await failed('nobody@example.org', 'address-refused');
    await carrier('email', 'down');
    dataOf(await (await holding(base)).call(sendCode, { contact: 'later@example.org', language: 'en' }));
    const state = async () =>
      (
        await world.sql.query<{ status: string; fail_reason: string | null }>(
          "select m.status, m.fail_reason from message m join contact_point c on c.id = m.contact_point_id where c.value = 'later@example.org'",
        )
      ).rows[0];
    await until(async () => (await state()).fail_reason === 'carrier-down', 'a failed try');
    expect((await state()).status).toBe('planned');
    await carrier('email', 'works');
    await desk.call(simulatedClock, { minutes: 2 });
    await until(async () => (await state()).status === 'sent', 'the mail');
    expect(
      (await world.sql.query("select 1 from simulated.mail where address = 'later@example.org'")).rows,
    ).toHaveLength(1);
  });

  it('keeps a message through a carrier that is down for an hour, and sends it once', async () => {
    // By day: at night the morning would be waited for.
    await passUntil(world, 9 * 60);
    await carrier('sms', 'down');
    dataOf(await (await holding(base)).call(sendCode, { contact: '+17205550180', language: 'en' }));
    const tries = async () =>
      Number(
        (
          await world.sql.query(
            "select m.attempts from message m join contact_point c on c.id = m.contact_point_id where c.value = '+17205550180'",
          )
        ).rows[0]?.attempts ?? 0,
      );
    await until(tries, 'the carrier was asked once');
    await desk.call(simulatedClock, { minutes: 11 });
    const waiting = "select 1 from message where kind = 'code' and status = 'planned'";
    await until(async () => (await world.sql.query(waiting)).rowCount === 0, 'it came too late');
    // A confirmation outlives the hour; a code does not, and says so instead of coming too late.
    const { id } = await (async () => {
      await carrier('sms', 'works');
      const made = await book('+17205550181');
      await until(async () => (await messages(made.id)).some(({ status }) => status === 'delivered'), 'confirmation');
      await carrier('sms', 'down');
      return made;
    })();
    const { rows: before } = await world.sql.query<{ version: number }>(
      'select version from appointment where id = $1',
      [id],
    );
    dataOf(await desk.call(cancelVisit, { id, reason: 'provider-away', note: '', version: before[0].version }));
    for (let i = 0; i < 7; i++) {
      await desk.call(simulatedClock, { minutes: 10 });
      await new Promise((resolve) => setTimeout(resolve, 400));
    }
    expect(await tries()).toBeGreaterThanOrEqual(1);
    await carrier('sms', 'works');
    await desk.call(simulatedClock, { minutes: 60 });
    await until(
      async () => (await messages(id)).some(({ kind, status }) => kind === 'cancellation' && status === 'delivered'),
      'the cancellation',
    );
    const { rows } = await world.sql.query(
      "select count(*)::int as n from simulated.sms where number = '+17205550181' and body ~ 'is canceled'",
    );
    expect(rows).toEqual([{ n: 1 }]);
  });

  it.each([
    ['late', 'sent', 'delivered'],
    ['muddled', 'delivered', 'delivered'],
    ['unreachable', 'failed', 'failed'],
  ] as const)('takes receipts that come %s', async (mode, soon, later) => {
    await desk.call(simulatedCarrier, { channel: 'sms', mode });
    const number = `+1720555019${['late', 'muddled', 'unreachable'].indexOf(mode)}`;
    dataOf(await (await holding(base)).call(sendCode, { contact: number, language: 'en' }));
    const status = async () =>
      (
        await world.sql.query<{ status: string }>(
          'select m.status from message m join contact_point c on c.id = m.contact_point_id where c.value = $1',
          [number],
        )
      ).rows[0]?.status;
    await until(async () => (await status()) === soon, soon);
    // All receipts that were due are in; what was settled stays settled.
    await until(
      async () =>
        (
          await world.sql.query(
            'select 1 from simulated.receipt r join simulated.sms s on s.id = r.message_id where s.number = $1 and r.taken_at is null and r.due_at < now()',
            [number],
          )
        ).rows.length === 0,
      'receipts',
    );
    expect(await status()).toBe(soon);
    await desk.call(simulatedClock, { minutes: 61 });
    await until(async () => (await status()) === later, later);
    if (mode === 'unreachable')
      expect(dataOf(await desk.call(todaysWork, {})).work).toContainEqual(
        expect.objectContaining({ kind: 'failed', contact: number, reason: 'number-unreachable' }),
      );
    await carrier('sms', 'works');
  });
});
