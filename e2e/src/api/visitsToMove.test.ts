import { acceptTimes, editSchedule, keepTime, recordCall, visitsToMove } from '@zaguan/contracts/availability';
import { moveVisit } from '@zaguan/contracts/booking';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ROOMS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { closeCanalRow } from '../fixtures/closing.ts';
import { bookedVisit } from '../fixtures/patient.ts';
import { until } from '../fixtures/until.ts';
import { makeWorld, passMinutes, TEST_DAY, type World } from '../fixtures/world.ts';

describe('the list of visits to move', () => {
  let world: World;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('visits_to_move');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  /** The list then holds everyone booked at the visit's site that day. */
  const closed = (start: string, tell: boolean) => closeCanalRow(desk, start.slice(0, 10), tell);
  const rowOf = async (id: string) => {
    const row = dataOf(await desk.call(visitsToMove, {})).visits.find((visit) => visit.appointmentId === id);
    if (!row) throw new Error('The visit is on the list.');
    return row;
  };
  const where = async (id: string) =>
    (await world.sql.query('select site_id, starts_at, version from appointment where id = $1', [id])).rows[0];

  it('offers a few times at other sites, after those at its own, and moves there and back', async () => {
    const { requested, id } = await bookedVisit(base, 2);
    const saved = await closed(requested.start, false);
    const row = await rowOf(id);
    const elsewhere = row.alternatives.filter(({ siteId }) => siteId !== SITES.canal);
    expect(elsewhere.length).toBeGreaterThan(0);
    expect(elsewhere.length).toBeLessThanOrEqual(3);
    expect(row.alternatives.findIndex(({ siteId }) => siteId !== SITES.canal)).toBe(
      row.alternatives.length - elsewhere.length,
    );
    // Nobody is sent to another site unasked.
    expect(row.proposed?.siteId).toBe(SITES.canal);
    const [there] = elsewhere;
    const moved = dataOf(
      await desk.call(acceptTimes, { times: [{ appointmentId: id, version: row.version, ...there }] }),
    );
    expect(moved).toMatchObject({ moved: 1, refused: [] });
    expect(await where(id)).toMatchObject({ site_id: there.siteId, starts_at: new Date(there.start) });
    // Whoever is expected somewhere else is told where.
    const { rows } = await world.sql.query<{ kind: string; body: string; place: string }>(
      `select m.kind, m.body, s.public_name || ', ' || s.address_line as place from message m join site s on s.id = $2
       where m.appointment_id = $1 and m.kind <> 'reminder' and m.status <> 'withdrawn' order by m.seq desc limit 1`,
      [id, there.siteId],
    );
    expect(rows[0].kind).toBe('moved');
    expect(rows[0].body).toContain(rows[0].place);
    expect(rows[0].body).toContain('new time and place');
    dataOf(await desk.call(undo, { id: saved.undo.id }));
    dataOf(await desk.call(undo, { id: moved.undo?.id ?? '' }));
    expect(await where(id)).toMatchObject({ site_id: SITES.canal, starts_at: new Date(requested.start) });
  });

  it('knows who was told by message; the others are called, which is noted and can be taken back', async () => {
    const { requested, id } = await bookedVisit(base, 4);
    const saved = await closed(requested.start, true);
    const told = await rowOf(id);
    expect(told.told).toBe(true);
    const { visits } = dataOf(await desk.call(visitsToMove, {}));
    expect(visits.filter((visit) => visit.told)).toHaveLength(saved.told);
    const settled = "select 1 from message where appointment_id = $1 and kind = 'must-move' and status = 'delivered'";
    await until(async () => (await world.sql.query(settled, [id])).rowCount, 'it arrived');
    // A message that did not arrive told nobody.
    await world.sql.query(
      "update message set status = 'failed', fail_reason = 'test', lease = null, lease_until = null where appointment_id = $1 and kind = 'must-move'",
      [id],
    );
    expect(await rowOf(id)).toMatchObject({ told: false, call: null, phone: expect.stringMatching(/^\+1\d{10}$/) });
    const first = dataOf(await desk.call(recordCall, { appointmentId: id, outcome: 'no-answer' }));
    const second = dataOf(await desk.call(recordCall, { appointmentId: id, outcome: 'spoke' }));
    expect((await rowOf(id)).call).toMatchObject({ outcome: 'spoke', by: expect.stringMatching(/./) });
    dataOf(await desk.call(undo, { id: second.undo.id }));
    expect((await rowOf(id)).call?.outcome).toBe('no-answer');
    dataOf(await desk.call(undo, { id: first.undo.id }));
    expect((await rowOf(id)).call).toBeNull();
    dataOf(await desk.call(undo, { id: saved.undo.id }));
  });

  it('keeps a visit at its time with another room, without a word to the patient', async () => {
    const [room] = ROOMS;
    const span = { startDate: '2026-12-02', startMinute: 0, endDate: '2026-12-11', endMinute: 1440 };
    const paint = { do: 'time-off' as const, resourceIds: [room as never], siteId: null, reason: 'Painting', ...span };
    const saved = dataOf(await desk.call(editSchedule, { edits: [paint], agreed: true }));
    const row = dataOf(await desk.call(visitsToMove, {})).visits.find(({ otherSeat }) => otherSeat);
    if (!row) throw new Error('Some visit has the other room free.');
    const id = row.appointmentId;
    expect(row.alternatives[0]).toEqual({ siteId: row.siteId, start: row.start, providerId: row.providerId });
    const about = async () =>
      (
        await world.sql.query(
          `select a.starts_at, a.ical_sequence, (select count(*)::int from message m where m.appointment_id = a.id) as messages,
             (select count(*)::int from occupancy o where o.appointment_id = a.id and o.resource_id = $2) as in_room
           from appointment a where a.id = $1`,
          [id, room],
        )
      ).rows[0];
    const before = await about();
    expect(before.in_room).toBeGreaterThan(0);
    const kept = dataOf(
      await desk.call(acceptTimes, {
        times: [{ appointmentId: id as never, version: row.version, ...row.alternatives[0] }],
      }),
    );
    expect(kept.moved).toBe(1);
    expect(await about()).toEqual({ ...before, in_room: 0 });
    expect(dataOf(await desk.call(visitsToMove, {})).visits.map(({ appointmentId }) => appointmentId)).not.toContain(
      id,
    );
    dataOf(await desk.call(undo, { id: saved.undo.id }));
  });

  it('tells whoever heard that it can’t take place that it does, when another room is found', async () => {
    const span = { startDate: '2026-12-02', startMinute: 0, endDate: '2026-12-11', endMinute: 1440 };
    const paint = {
      do: 'time-off' as const,
      resourceIds: [ROOMS[0] as never],
      siteId: null,
      reason: 'Painting',
      ...span,
    };
    const { rows } = await world.sql.query<{ id: string }>(
      `select a.id from appointment a join occupancy o on o.appointment_id = a.id and o.resource_id = $1
       where a.status = 'booked' and a.starts_at > '2026-12-02T06:00Z'`,
      [ROOMS[0]],
    );
    // Each of them agreed to messages, as a self-booking does.
    for (const { id } of rows)
      await world.sql.query(
        `insert into message (id, appointment_id, visit_date, contact_point_id, channel, kind, language, body, address, send_at, not_after, status, next_attempt_at, sent_at, created_at)
         select gen_random_uuid(), $1, (select site_date from appointment where id = $1), (select id from contact_point where kind = 'phone' limit 1), 'sms', 'confirmation', 'en', 'x', '+13125550100', now(), now() + interval '1 day', 'delivered', now(), now(), now()`,
        [id],
      );
    const saved = dataOf(await desk.call(editSchedule, { edits: [paint], agreed: true, tell: true }));
    const row = dataOf(await desk.call(visitsToMove, {})).visits.find(({ otherSeat, told }) => otherSeat && told);
    if (!row) throw new Error('Somebody was told whose visit has the other room free.');
    const times = [{ appointmentId: row.appointmentId as never, version: row.version, ...row.alternatives[0] }];
    expect(dataOf(await desk.call(acceptTimes, { times })).moved).toBe(1);
    const last = await world.sql.query<{ kind: string }>(
      "select kind from message where appointment_id = $1 and kind <> 'reminder' and status not in ('withdrawn','dropped') order by seq desc limit 1",
      [row.appointmentId],
    );
    expect(last.rows[0].kind).toBe('restored');
    dataOf(await desk.call(undo, { id: saved.undo.id }));
  });

  it('refuses a call or a reason about what is not on it, and acts of those who may not', async () => {
    const { requested, id } = await bookedVisit(base, 6);
    expect(refusalOf(await desk.call(recordCall, { appointmentId: id, outcome: 'spoke' })).tag).toBe('NotFound');
    expect(refusalOf(await desk.call(keepTime, { appointmentId: id, reason: 'Stays here' })).tag).toBe('NotFound');
    const saved = await closed(requested.start, false);
    const reader = await signedIn(base, 'read-only');
    expect(refusalOf(await reader.call(recordCall, { appointmentId: id, outcome: 'spoke' })).tag).toBe('NotAllowed');
    expect((await desk.call(recordCall, { appointmentId: id, outcome: 'shouted' as never })).status).toBe(400);
    dataOf(await desk.call(undo, { id: saved.undo.id }));
  });

  it('does not move to a site that is not there, nor to one that has nobody', async () => {
    const { requested, id } = await bookedVisit(base, 8);
    const { version } = await where(id);
    const to = (siteId: string) =>
      desk.call(moveVisit, { id, siteId, start: requested.start, providerId: requested.providerId, version });
    expect(refusalOf(await to(crypto.randomUUID())).tag).toBe('NotFound');
    const refused = refusalOf(await to(SITES.mesa));
    expect(refused.tag).toBe('NotOffered');
    expect(await where(id)).toMatchObject({ site_id: SITES.canal, version });
  });

  const movedAway = async (id: string) => {
    const row = await rowOf(id);
    if (!row.proposed) throw new Error('Another time was found.');
    const time = { appointmentId: id, version: row.version, ...row.proposed } as never;
    const { undo: back } = dataOf(await desk.call(acceptTimes, { times: [time] }));
    return { back: back?.id ?? '', to: new Date(row.proposed.start) };
  };

  it('never puts a visit back into a time that somebody else has now', async () => {
    const first = await bookedVisit(base, 6);
    const second = await bookedVisit(base, 0);
    const { start, providerId } = first.requested;
    const saved = await closed(start, false);
    const { back, to } = await movedAway(first.id);
    // It is open after all, and the time goes to the other visit; then it is closed again.
    dataOf(await desk.call(undo, { id: saved.undo.id }));
    const { version } = await where(second.id);
    dataOf(await desk.call(moveVisit, { id: second.id, version, start, providerId } as never));
    await closed(start, false);
    expect(refusalOf(await desk.call(undo, { id: back })).tag).toBe('TimeTaken');
    expect((await where(first.id)).starts_at).toEqual(to);
    expect((await where(second.id)).starts_at).toEqual(new Date(start));
  });

  it('never puts a visit back into a time that is over', async () => {
    await closeCanalRow(desk, TEST_DAY, false);
    const soon = dataOf(await desk.call(visitsToMove, {})).visits.find(
      ({ start, proposed }) => start.startsWith(TEST_DAY) && proposed !== null && !proposed.start.startsWith(TEST_DAY),
    );
    if (!soon) throw new Error('The excerpt has visits later on its day.');
    const { back, to } = await movedAway(soon.appointmentId);
    const { rows } = await world.sql.query<{ now: Date }>(
      "select clock_timestamp() + offset_ms * interval '1 millisecond' as now from domain_clock",
    );
    await passMinutes(world, Math.ceil((Date.parse(soon.start) - rows[0].now.getTime()) / 60_000) + 1);
    expect(refusalOf(await desk.call(undo, { id: back })).tag).toBe('NotOffered');
    expect((await where(soon.appointmentId)).starts_at).toEqual(to);
  });
});
