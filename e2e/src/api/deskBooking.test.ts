import { randomUUID } from 'node:crypto';
import { cancelVisit, moveVisit, setStatus } from '@zaguan/contracts/booking';
import { daybookDay, unfoldDay } from '@zaguan/contracts/daybook';
import * as desk from '@zaguan/contracts/desk';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookingOf, newPatients } from '../fixtures/deskBookings.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('booking at the desk', () => {
  let world: World;
  let base: string;
  let clerk: Client;
  beforeAll(async () => {
    world = await makeWorld('desk_booking');
    base = world.servers[0].url;
    clerk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const people = (most = 6) => newPatients(world.sql, most);
  const wanted = (patientId: string, more: object = {}) => ({ patientId, visitTypeId: TYPES.follow, ...more });
  const timesOn = async (patientId: string, date = TEST_DAY, more: object = {}) =>
    dataOf(await clerk.call(desk.timesOfDay, { ...wanted(patientId, more), siteId: SITES.canal, date } as never)).times;
  const visitAt = async (patientId: string, n: number, more: object = {}) => {
    const time = (await timesOn(patientId))[n];
    return { ...wanted(patientId), siteId: SITES.canal, providerId: time.providerId, start: time.start, ...more };
  };
  const book = (visits: readonly object[], more: object = {}) => clerk.call(desk.bookAtDesk, bookingOf(visits, more));
  const rowOf = async (id: string) =>
    (
      await world.sql.query(
        `select status, origin, patient_id as patient, provider_id as provider, starts_at as start, parts, rules_waived as waived, group_id as "group", group_kind as kind, group_position as position, version, reason_text as reason,
           (extract(epoch from ends_at - starts_at) / 60)::int as minutes from appointment where id = $1`,
        [id],
      )
    ).rows[0];

  it('books a time for a patient, with the reason, and tells them; undone, nobody hears of it', async () => {
    const [patient] = await people();
    const visit = await visitAt(patient, 3, { reason: 'Medicine review' });
    const done = dataOf(await book([visit]));
    const [booked] = done.visits;
    expect(booked).toMatchObject({ patientId: patient, start: visit.start, waived: [] });
    expect(await rowOf(booked.id)).toMatchObject({
      ...{ status: 'booked', origin: 'desk', patient, reason: 'Medicine review', parts: null, waived: null },
    });
    expect((await timesOn(patient)).map(({ start }) => start)).not.toContain(visit.start);
    const shown = unfoldDay(dataOf(await clerk.call(daybookDay, { date: TEST_DAY })));
    expect(JSON.stringify(shown)).toContain(booked.id);
    dataOf(await clerk.call(undo, { id: done.undo.id }));
    expect(await rowOf(booked.id)).toMatchObject({ status: 'cancelled' });
    const { rows } = await world.sql.query(
      "select kind from message where appointment_id = $1 and status <> 'withdrawn'",
      [booked.id],
    );
    expect(rows.filter(({ kind }) => kind === 'cancellation')).toEqual([]);
    expect(refusalOf(await clerk.call(undo, { id: done.undo.id })).tag).toBe('UndoGone');
  });

  it('books once what is sent twice, and refuses the same press with something else', async () => {
    const [patient] = await people();
    const sent = bookingOf([await visitAt(patient, 1)]) as object;
    const [one, two] = await Promise.all([
      clerk.call(desk.bookAtDesk, sent as never),
      clerk.call(desk.bookAtDesk, sent as never),
    ]);
    expect(dataOf(one).visits[0].id).toBe(dataOf(two).visits[0].id);
    const other = { ...sent, visits: [await visitAt(patient, 8)] };
    expect(refusalOf(await clerk.call(desk.bookAtDesk, other as never)).tag).toBe('HoldUsed');
    dataOf(await clerk.call(undo, { id: dataOf(two).undo.id }));
  });

  it('keeps a time for the desk, shown to others as being booked, and lets go of it', async () => {
    const [patient, other] = await people();
    const visit = await visitAt(patient, 2);
    const flowId = randomUUID();
    const { hold } = dataOf(await clerk.call(desk.holdAtDesk, { flowId, visits: [visit] } as never));
    expect(hold.secondsLeft).toBeGreaterThan(590);
    // To the booking that holds it, it is free.
    const ask = async (id: string | null) =>
      dataOf(await clerk.call(desk.checkAtDesk, { visits: [visit], flowId: id } as never)).visits[0].broken.map(
        ({ code }) => code,
      );
    expect([await ask(flowId), await ask(null)]).toEqual([[], ['busy', 'patient-elsewhere']]);
    expect((await timesOn(patient, TEST_DAY, { flowId })).map(({ start }) => start)).toContain(visit.start);
    const second = await signedIn(base, 'front-desk');
    const late = await second.call(desk.bookAtDesk, bookingOf([{ ...visit, patientId: other }]));
    expect(refusalOf(late)).toMatchObject({ tag: 'TimeTaken' });
    expect(refusalOf(late).nearest?.length).toBe(3);
    // Nobody else lets go of it or makes it longer.
    await second.call(desk.releaseDeskHold, { flowId });
    expect(refusalOf(await second.call(desk.extendDeskHold, { flowId })).tag).toBe('HoldGone');
    expect(dataOf(await clerk.call(desk.extendDeskHold, { flowId })).hold.mayExtend).toBe(true);
    const done = dataOf(await clerk.call(desk.bookAtDesk, bookingOf([visit], { flowId })));
    const held = await world.sql.query('select 1 from hold where flow_id = $1', [flowId]);
    expect(held.rowCount).toBe(0);
    dataOf(await clerk.call(undo, { id: done.undo.id }));
  });

  it('books against rules by name, with a reason, by who may; never twice in one place or in the past', async () => {
    const [patient, other] = await people();
    const first = dataOf(await book([await visitAt(patient, 0)])).visits[0];
    const same = { ...wanted(other), siteId: SITES.canal, providerId: first.providerId, start: first.start };
    expect(refusalOf(await book([same]))).toMatchObject({
      tag: 'TimeTaken',
      codes: ['busy'],
      facts: { mayWaive: true },
    });
    const [{ broken }] = dataOf(await clerk.call(desk.checkAtDesk, { visits: [same] } as never)).visits;
    expect(broken.map(({ code, mayWaive }) => [code, mayWaive])).toEqual([['busy', true]]);
    const waive = { codes: ['busy'], reason: 'Mother of two, came from far' };
    const frontDesk = await signedIn(base, 'front-desk');
    expect(refusalOf(await frontDesk.call(desk.bookAtDesk, bookingOf([{ ...same, waive }]))).tag).toBe('NotAllowed');
    expect(refusalOf(await book([{ ...same, waive: { codes: ['busy'], reason: ' ' } }])).tag).toBe('InvalidInput');
    const done = dataOf(await book([{ ...same, waive }]));
    const [twice] = done.visits;
    expect([twice.waived, (await rowOf(twice.id)).waived]).toEqual([['busy'], ['busy']]);
    const overrides = await world.sql.query('select rules, reason from booking_override where appointment_id = $1', [
      twice.id,
    ]);
    expect(overrides.rows).toEqual([{ rules: ['busy'], reason: waive.reason }]);
    // Moved to a free time it breaks none; taken back, it is against the same rule again.
    const free = (await timesOn(other)).at(-1);
    const to = { id: twice.id, start: free?.start, providerId: free?.providerId, version: 1 };
    const away = dataOf(await clerk.call(moveVisit, to as never));
    expect((await rowOf(twice.id)).waived).toBeNull();
    dataOf(await clerk.call(undo, { id: away.undo.id }));
    expect(await rowOf(twice.id)).toMatchObject({ waived: ['busy'], start: new Date(first.start) });
    const { version } = await rowOf(twice.id);
    // Canceled and brought back, it is booked against the same rule again.
    const gone = dataOf(await clerk.call(cancelVisit, { id: twice.id, reason: 'other', note: '', version } as never));
    dataOf(await clerk.call(undo, { id: gone.undo.id }));
    expect(await rowOf(twice.id)).toMatchObject({ status: 'booked', waived: ['busy'] });
    const yesterday = new Date(Date.parse(first.start) - 7 * 86_400_000).toISOString();
    const past = await book([
      { ...same, start: yesterday, waive: { codes: ['past', 'busy', 'no-hours'], reason: 'was here' } },
    ]);
    expect(refusalOf(past)).toMatchObject({ codes: expect.arrayContaining(['past']), facts: { mayWaive: false } });
    // One patient is in one place.
    const elsewhere = {
      ...same,
      patientId: patient,
      waive: { codes: ['busy', 'patient-elsewhere'], reason: 'really' },
    };
    expect(refusalOf(await book([elsewhere])).codes).toEqual(['patient-elsewhere']);
  });

  it('keeps the parts of one visit, and moves, finds and lengthens by them', async () => {
    const [patient] = await people();
    const parts = [{ lengthMin: 50, needs: [{ key: 'provider', what: 'provider' }] }];
    const [time] = await timesOn(patient, TEST_DAY, { parts });
    const visit = {
      ...wanted(patient, { parts }),
      siteId: SITES.canal,
      providerId: time.providerId,
      start: time.start,
    };
    const [booked] = dataOf(await book([visit])).visits;
    expect(await rowOf(booked.id)).toMatchObject({ minutes: 50, parts });
    const later = (await timesOn(patient, TEST_DAY, { parts })).filter(({ start }) => start > booked.end)[0];
    const moved = { id: booked.id, start: later.start, providerId: later.providerId, version: 1 };
    dataOf(await clerk.call(moveVisit, moved as never));
    expect(await rowOf(booked.id)).toMatchObject({ minutes: 50, parts });
    const gone = {
      ...visit,
      parts: [{ lengthMin: 20, needs: [{ key: 'room', what: 'resource', resourceId: randomUUID() }] }],
    };
    expect(refusalOf(await book([gone])).issues).toEqual([{ path: 'visits.0.parts', code: 'no-such-resource' }]);
    const nobody = { ...visit, parts: [{ lengthMin: 20, needs: [] }] };
    expect(refusalOf(await book([nobody])).issues?.[0].code).toBe('provider-stays');
  });

  it('makes the visit longer for who needs more time, and keeps that with it', async () => {
    const patient = (await people()).at(-1) as string;
    await world.sql.query('update patient set extra_min = 15 where id = $1', [patient]);
    const [booked] = dataOf(await book([await visitAt(patient, 0)])).visits;
    const usual = (
      await world.sql.query<{ min: number }>(
        'select sum(length_min)::int as min from visit_type_part where visit_type_id = $1',
        [TYPES.follow],
      )
    ).rows[0].min;
    expect((await rowOf(booked.id)).minutes).toBe(usual + 15);
    await world.sql.query('update patient set extra_min = 0 where id = $1', [patient]);
  });

  it('books a household together or not at all', async () => {
    const [a, b, c] = await people();
    const times = await timesOn(a);
    const base = { siteId: SITES.canal, visitTypeId: TYPES.follow };
    const visits = [a, b, c].map((patientId, i) => ({
      ...base,
      patientId,
      providerId: times[i * 4].providerId,
      start: times[i * 4].start,
    }));
    const clash = [...visits.slice(0, 2), { ...visits[2], start: visits[0].start, providerId: visits[0].providerId }];
    const before = (await world.sql.query('select count(*)::int as n from appointment')).rows[0].n;
    expect(refusalOf(await book(clash, { group: 'household' }))).toMatchObject({
      tag: 'TimeTaken',
      facts: { visit: 2 },
    });
    expect((await world.sql.query('select count(*)::int as n from appointment')).rows[0].n).toBe(before);
    const done = dataOf(await book(visits, { group: 'household' }));
    const rows = await Promise.all(done.visits.map(({ id }) => rowOf(id)));
    expect(new Set(rows.map(({ group }) => group)).size).toBe(1);
    expect(rows.map(({ kind, position }) => [kind, position])).toEqual([
      ['household', 0],
      ['household', 1],
      ['household', 2],
    ]);
    dataOf(await clerk.call(undo, { id: done.undo.id }));
    expect((await Promise.all(done.visits.map(({ id }) => rowOf(id)))).map(({ status }) => status)).toEqual([
      'cancelled',
      'cancelled',
      'cancelled',
    ]);
  });

  it('puts one of them onto the Bench, and places it later by the same way', async () => {
    const [a, b] = await people();
    const done = dataOf(
      await book([await visitAt(a, 0)], { group: 'household', bench: [{ ...wanted(b), reason: 'After school only' }] }),
    );
    const { unplaced } = dataOf(await clerk.call(desk.bench, {}));
    const [row] = unplaced.filter(({ patientId }) => patientId === b);
    expect(row).toMatchObject({ reason: 'After school only', keeps: null, owner: null });
    const owned = dataOf(await clerk.call(desk.ownUnplaced, { id: row.id, mine: true, version: row.version }));
    expect(refusalOf(await clerk.call(desk.withdrawUnplaced, { id: row.id, version: row.version })).tag).toBe(
      'ChangedMeanwhile',
    );
    expect(owned.version).toBe(row.version + 1);
    const placed = dataOf(await book([await visitAt(b, 2, { unplacedId: row.id })]));
    expect(dataOf(await clerk.call(desk.bench, {})).unplaced.map(({ id }) => id)).not.toContain(row.id);
    expect(refusalOf(await book([await visitAt(b, 6, { unplacedId: row.id })])).tag).toBe('ChangedMeanwhile');
    dataOf(await clerk.call(undo, { id: placed.undo.id }));
    expect(dataOf(await clerk.call(desk.bench, {})).unplaced.map(({ id }) => id)).toContain(row.id);
    expect(done.visits).toHaveLength(1);
  });

  it('puts a visit back onto the Bench when its cancellation is undone, and nothing else', async () => {
    const [patient] = await people();
    const [booked] = dataOf(await book([await visitAt(patient, 5)])).visits;
    dataOf(
      await clerk.call(desk.putOnBench, { appointmentId: booked.id, version: 1, freeNow: false, note: '' } as never),
    );
    const waits = async () =>
      dataOf(await clerk.call(desk.bench, {})).unplaced.filter(({ patientId }) => patientId === patient).length;
    expect(await waits()).toBe(1);
    const cancel = async () => {
      const { version } = await rowOf(booked.id);
      return dataOf(await clerk.call(cancelVisit, { id: booked.id, reason: 'other', note: '', version } as never));
    };
    const gone = await cancel();
    expect(await waits()).toBe(0);
    dataOf(await clerk.call(undo, { id: gone.undo.id }));
    expect(await waits()).toBe(1);
    const [row] = dataOf(await clerk.call(desk.bench, {})).unplaced.filter(({ patientId }) => patientId === patient);
    dataOf(await clerk.call(desk.withdrawUnplaced, { id: row.id, version: row.version }));
    dataOf(await clerk.call(undo, { id: (await cancel()).undo.id }));
    expect(await waits()).toBe(0);
  });

  it('lets a booked visit wait to be moved, keeping its time, or frees it now', async () => {
    const [a, b] = await people();
    const [visit] = dataOf(await book([await visitAt(a, 0)])).visits;
    const on = dataOf(
      await clerk.call(desk.putOnBench, { appointmentId: visit.id, version: 1, freeNow: false } as never),
    );
    expect(
      refusalOf(await clerk.call(desk.putOnBench, { appointmentId: visit.id, version: 1, freeNow: false } as never))
        .tag,
    ).toBe('DecidedAlready');
    const [row] = dataOf(await clerk.call(desk.bench, {})).unplaced.filter(({ id }) => id === on.id);
    expect(row.keeps).toMatchObject({ id: visit.id });
    const two = [await visitAt(a, 5, { unplacedId: on.id }), await visitAt(b, 9)];
    expect(refusalOf(await book(two, { group: 'household' })).issues).toEqual([
      { path: 'visits.0.unplacedId', code: 'moves-alone' },
    ]);
    const placed = dataOf(await book([await visitAt(a, 5, { unplacedId: on.id })]));
    expect(placed.visits[0].id).toBe(visit.id);
    expect(dataOf(await clerk.call(desk.bench, {})).unplaced.map(({ id }) => id)).not.toContain(on.id);
    const { version } = await rowOf(visit.id);
    const freed = dataOf(
      await clerk.call(desk.putOnBench, { appointmentId: visit.id, version, freeNow: true } as never),
    );
    expect(await rowOf(visit.id)).toMatchObject({ status: 'cancelled' });
    dataOf(await clerk.call(undo, { id: freed.undo.id }));
    expect(await rowOf(visit.id)).toMatchObject({ status: 'booked' });
  });

  it('moves a visit from the Bench also while its new time is just being kept', async () => {
    const [patient] = await people();
    const [visit] = dataOf(await book([await visitAt(patient, 0)])).visits;
    for (let round = 0; round < 16; round++) {
      const { version } = await rowOf(visit.id);
      const on = dataOf(
        await clerk.call(desk.putOnBench, { appointmentId: visit.id, version, freeNow: false } as never),
      );
      const next = await visitAt(patient, 4);
      const flowId = randomUUID();
      const keep = clerk.call(desk.holdAtDesk, { flowId, visits: [next] } as never);
      // The second press follows the first at once, or a moment later.
      await new Promise((done) => setTimeout(done, round * 2));
      const placed = dataOf(await book([{ ...next, unplacedId: on.id }], { flowId }));
      await keep;
      expect(placed.visits[0]).toMatchObject({ id: visit.id, start: next.start });
      const held = await world.sql.query('select 1 from hold where flow_id = $1', [flowId]);
      expect(held.rowCount).toBe(0);
    }
  });

  it('books from a request, which opens again when the visit is canceled and ends when one is completed', async () => {
    const [patient] = await people();
    const doctor = await signedIn(base, 'provider');
    const ask = {
      ...wanted(patient),
      siteId: null,
      providerId: PROVIDERS.amaya,
      fromDate: TEST_DAY,
      dueDate: TEST_DAY,
    };
    const wrong = { ...ask, dueDate: '2020-01-01', reason: '', urgency: 'routine' };
    expect(refusalOf(await doctor.call(desk.askRequest, wrong as never)).issues?.[0].code).toBe('until-before-from');
    const asked = dataOf(
      await doctor.call(desk.askRequest, { ...ask, reason: 'Spirometry is due', urgency: 'urgent' } as never),
    );
    expect(refusalOf(await doctor.call(desk.bookAtDesk, bookingOf([await visitAt(patient, 0)]))).tag).toBe(
      'NotAllowed',
    );
    const { context } = dataOf(await clerk.call(desk.contextOfPatient, { id: patient } as never));
    expect(context.requests).toMatchObject([{ id: asked.id, reason: 'Spirometry is due', overdue: false }]);
    const state = async () =>
      (await world.sql.query('select state from booking_request where id = $1', [asked.id])).rows[0].state;
    const [visit] = dataOf(await book([await visitAt(patient, 1, { requestId: asked.id })])).visits;
    expect(await state()).toBe('booked');
    expect(refusalOf(await book([await visitAt(patient, 7, { requestId: asked.id })])).tag).toBe('ChangedMeanwhile');
    const gone = dataOf(
      await clerk.call(cancelVisit, { id: visit.id, reason: 'patient-asked', note: '', version: 1 } as never),
    );
    expect(await state()).toBe('open');
    dataOf(await clerk.call(undo, { id: gone.undo.id }));
    expect(await state()).toBe('booked');
    await world.sql.query(
      "update appointment set status = 'checked-in', checked_in_at = starts_at, arrived_at = starts_at where id = $1",
      [visit.id],
    );
    const { version } = await rowOf(visit.id);
    const ended = dataOf(await clerk.call(setStatus, { id: visit.id, to: 'fulfilled', version } as never));
    expect(await state()).toBe('completed');
    dataOf(await clerk.call(undo, { id: ended.undo.id }));
    expect(await state()).toBe('booked');
  });

  it('ends an open request when a fitting visit that nobody booked for it is completed', async () => {
    const patient = (await people()).at(-2) as string;
    const ask = {
      ...wanted(patient),
      siteId: null,
      providerId: null,
      fromDate: TEST_DAY,
      dueDate: TEST_DAY,
      reason: '',
      urgency: 'routine',
    };
    const asked = dataOf(await clerk.call(desk.askRequest, ask as never));
    const [visit] = dataOf(await book([await visitAt(patient, 0)])).visits;
    await world.sql.query(
      "update appointment set status = 'checked-in', checked_in_at = starts_at, arrived_at = starts_at where id = $1",
      [visit.id],
    );
    dataOf(await clerk.call(setStatus, { id: visit.id, to: 'fulfilled', version: 1 } as never));
    const { requests } = dataOf(await clerk.call(desk.requests, {} as never));
    expect(requests.map(({ id }) => id)).not.toContain(asked.id);
    const withdrawn = await clerk.call(desk.withdrawRequest, { id: asked.id, because: 'was here', version: 2 });
    expect(refusalOf(withdrawn)).toMatchObject({ tag: 'WrongStatus', facts: { from: 'completed' } });
  });

  it('proposes times by habits, keeps the wish to come sooner, and tells what matters', async () => {
    const [patient] = await people();
    const { proposals } = dataOf(
      await clerk.call(desk.proposeAtDesk, { ...wanted(patient), from: TEST_DAY, days: 28 } as never),
    );
    expect(proposals.length).toBe(3);
    expect(proposals.flatMap(({ why }) => why)).toContain('soonest');
    const sooner = { ...desk.ANY_WISH, weekdays: [1, 2], fromMinute: 480, toMinute: 720 };
    const done = dataOf(await book([await visitAt(patient, 10, { sooner })]));
    const { context } = dataOf(await clerk.call(desk.contextOfPatient, { id: patient } as never));
    expect(context.coming.map(({ id }) => id)).toContain(done.visits[0].id);
    expect(context.wishes).toMatchObject([{ appointmentId: done.visits[0].id, weekdays: [1, 2], fromMinute: 480 }]);
    const ended = dataOf(await clerk.call(desk.endWish, { id: context.wishes[0].id }));
    dataOf(await clerk.call(undo, { id: ended.undo.id }));
    expect(
      refusalOf(await book([await visitAt(patient, 4, { sooner: { ...sooner, toMinute: 400 } })])).issues?.[0].code,
    ).toBe('across-midnight');
  });

  it('books nobody who has died, is archived, or is a child for whom somebody without the right asks', async () => {
    const [patient] = await people();
    const visit = await visitAt(patient, 0);
    await world.sql.query("update patient set status = 'archived' where id = $1", [patient]);
    expect(refusalOf(await book([visit]))).toMatchObject({ tag: 'NotBookable', facts: { status: 'archived' } });
    await world.sql.query("update patient set status = 'active', restricted = true where id = $1", [patient]);
    const frontDesk = await signedIn(base, 'front-desk');
    expect(refusalOf(await frontDesk.call(desk.bookAtDesk, bookingOf([visit]))).tag).toBe('NotAllowed');
    await world.sql.query("update patient set restricted = false, birth_date = '2019-05-05' where id = $1", [patient]);
    const parent = randomUUID();
    await world.sql.query(
      "insert into relationship (id, patient_id, related_name, kind, may_book, from_date) values ($1, $2, 'Iva Marsh', 'parent', true, '2020-01-01'), ($3, $2, 'Odd Marsh', 'other', false, '2020-01-01')",
      [parent, patient, randomUUID()],
    );
    expect(refusalOf(await book([visit])).tag).toBe('MayNotBook');
    expect(refusalOf(await book([{ ...visit, askedBy: randomUUID() }])).tag).toBe('MayNotBook');
    expect(dataOf(await book([{ ...visit, askedBy: parent }])).visits).toHaveLength(1);
  });

  it('gives one of two desks the time, whatever both press, and names other times to the other', async () => {
    const [a, b] = await people();
    const visit = await visitAt(a, 0);
    const others = await Promise.all([signedIn(base, 'coordinator'), signedIn(base, 'manager')]);
    const answers = await Promise.all(
      others.map((client, i) => client.call(desk.bookAtDesk, bookingOf([{ ...visit, patientId: [a, b][i] }]))),
    );
    const lost = answers.filter(({ status }) => status !== 200);
    expect(lost).toHaveLength(1);
    expect(refusalOf(lost[0])).toMatchObject({ tag: 'TimeTaken', codes: ['busy'] });
    expect(refusalOf(lost[0]).nearest).toHaveLength(3);
  });
});
