import {
  acceptTimes,
  requestTimeOff,
  upcomingChanges,
  decideTimeOff,
  editSchedule,
  keepTime,
  listTimeOffRequests,
  previewSchedule,
  scheduleWeek,
  visitsToMove,
  type WireEdit,
} from '@zaguan/contracts/availability';
import { daybookDay, unfoldDay } from '@zaguan/contracts/daybook';
import { publicDays } from '@zaguan/contracts/openings';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit, FOLLOW_UP, freeTime } from '../fixtures/patient.ts';
import { until } from '../fixtures/until.ts';
import { at, makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

const ANYTHING = { visitTypeIds: null, kinds: null, invitedOnly: false };
const TERMS = {
  siteId: SITES.mesa,
  weekdays: [6 as const],
  everyWeeks: 2,
  effectiveUntil: null,
  followsSiteHours: false,
  fromMinute: 540,
  toMinute: 720,
  places: 1,
  accepts: ANYTHING,
  online: true,
  release: null,
  caps: [],
};
const dray = { of: 'resource' as const, id: PROVIDERS.dray };
const saturday = (pattern: object = {}, more: object = {}): WireEdit => ({
  do: 'add-hours',
  subject: dray,
  from: '2026-12-05',
  pattern: { ...TERMS, ...pattern },
  ...more,
});

describe('edits of the schedule', () => {
  let world: World;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('schedule');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const save = (edits: WireEdit[], agreed?: boolean) => desk.call(editSchedule, { edits, agreed });
  const takeBack = async (id: string) => (await desk.call(undo, { id })).status;
  const hoursOf = async (resourceId: string, from = TEST_DAY) =>
    dataOf(await desk.call(scheduleWeek, { from })).hours.filter((row) => row.subject.id === resourceId);
  const laneOf = async (resourceId: string, siteId: string, from: string) =>
    dataOf(await desk.call(scheduleWeek, { from })).lanes.find(
      (lane) => lane.resourceId === resourceId && lane.siteId === siteId,
    );
  const morning = async () => {
    const found = (await hoursOf(PROVIDERS.amaya)).find((row) => row.fromMinute === 480);
    if (!found) throw new Error('Dr. Amaya works mornings.');
    return found;
  };

  it('add hours, which the Daybook shows on their dates only, and take them back', async () => {
    const saved = dataOf(await save([saturday()]));
    // The site itself is closed on Saturdays, and its hours bind online.
    expect(saved.warnings.map(({ code }) => code)).toEqual(['outside-site-hours']);
    const hoursBandsOn = async (date: string) =>
      unfoldDay(dataOf(await desk.call(daybookDay, { date })))
        .sites.find((site) => site.id === SITES.mesa)
        ?.lanes.find((lane) => lane.resourceId === PROVIDERS.dray)?.hoursBands ?? [];
    const [hoursBand] = await hoursBandsOn('2026-12-05');
    expect(hoursBand).toMatchObject({
      start: at('America/Denver', 4, 540),
      end: at('America/Denver', 4, 720),
      online: [],
    });
    expect([await hoursBandsOn('2026-12-12'), (await hoursBandsOn('2026-12-19')).length]).toEqual([[], 1]);
    expect(await takeBack(saved.undo.id)).toBe(200);
    expect(await hoursBandsOn('2026-12-05')).toEqual([]);
    const { rows } = await world.sql.query(
      "select command, subjects from audit_entry where command = 'availability.edit'",
    );
    expect(rows[0].subjects).toEqual([{ kind: 'resource', id: PROVIDERS.dray }]);
  });

  it.each([
    ['hours that end before they start', { fromMinute: 720, toMinute: 540 }, 'pattern.toMinute', 'across-midnight'],
    ['hours of no length', { fromMinute: 540, toMinute: 540 }, 'pattern.toMinute', 'empty-stretch'],
    ['hours on no day', { weekdays: [] }, 'pattern.weekdays', 'no-weekday'],
    ['hours off the five minutes', { fromMinute: 541 }, 'pattern.fromMinute', 'not_multiple_of'],
    ['hours every 0 weeks', { everyWeeks: 0 }, 'pattern.everyWeeks', 'every-zero'],
    [
      'hours until a day before their first',
      { effectiveUntil: '2026-12-01' },
      'pattern.effectiveUntil',
      'until-before-from',
    ],
    [
      'hours for no visit type',
      { accepts: { ...ANYTHING, visitTypeIds: [] } },
      'pattern.accepts.visitTypeIds',
      'no-type',
    ],
  ])('refuse %s', async (_what, change, path, code) => {
    const answer = await desk.send('post', '/availability/edits', { edits: [saturday(change)] });
    expect(refusalOf(answer).issues).toEqual([{ path: `edits.0.${path}`, code }]);
  });

  it('refuse two places at once by when things really happen, and no time to get from one site to the other', async () => {
    // Teo Lund works at Mesa Court (Denver) Wednesdays 8:00 to 16:00, which is 9:00 to 17:00 in Chicago.
    await world.sql.query(
      'insert into site_travel (from_site_id, to_site_id, minutes) values ($1, $2, 30) on conflict (from_site_id, to_site_id) do update set minutes = 30',
      [SITES.canal, SITES.mesa],
    );
    const lund = (toMinute: number): WireEdit =>
      ({
        ...saturday({ siteId: SITES.canal, weekdays: [3], everyWeeks: 1, fromMinute: 480, toMinute }),
        subject: { of: 'resource', id: PROVIDERS.lund },
        from: '2026-12-02',
      }) as WireEdit;
    const codes = async (toMinute: number) => (await save([lund(toMinute)])).error?.codes ?? null;
    expect([await codes(545), await codes(515)]).toEqual([['overlap'], ['no-travel-time']]);
    expect(refusalOf(await save([lund(545)]))).toMatchObject({
      tag: 'ScheduleRefused',
      facts: { date: '2026-12-02', siteId: SITES.mesa },
      issues: [{ path: 'edits.0', code: 'overlap' }],
    });
    const enough = dataOf(await save([lund(510)]));
    expect(await takeBack(enough.undo.id)).toBe(200);
  });

  it('say before saving what they do: start times by type and site, places, and the visits that would have to move', async () => {
    const { requested } = await bookedVisit(base);
    const provider = requested.providerId ?? '';
    const date = requested.start.slice(0, 10);
    const edits: WireEdit[] = [
      {
        do: 'time-off',
        resourceIds: [provider],
        siteId: null,
        reason: 'Ill',
        startDate: date,
        startMinute: 0,
        endDate: date,
        endMinute: 1440,
      },
    ];
    const before = dataOf(await desk.call(publicDays, FOLLOW_UP)).days.find((day) => day.date === date)?.starts ?? 0;
    const { impact } = dataOf(await desk.call(previewSchedule, { edits }));
    const row = impact?.types.find(
      (each) => each.visitTypeId === FOLLOW_UP.visitTypeId && each.siteId === FOLLOW_UP.siteId,
    );
    expect(row?.online.gained).toBe(0);
    expect(row?.online.lost).toBeGreaterThan(0);
    expect(row?.places?.after).toBeLessThan(row?.places?.before ?? 0);
    expect(impact?.visitsToMove.map(({ start, codes }) => [start, codes])).toContainEqual([
      requested.start,
      ['time-off'],
    ]);
    // Looking changed nothing.
    expect(dataOf(await desk.call(publicDays, FOLLOW_UP)).days.find((day) => day.date === date)?.starts).toBe(before);
    expect(refusalOf(await save(edits))).toMatchObject({
      tag: 'AgreementNeeded',
      codes: ['visits-to-move'],
      facts: { visits: impact?.visitsToMove.length },
    });
    const saved = dataOf(await save(edits, true));
    expect(saved.toMove).toBe(impact?.visitsToMove.length);
    // What was done says what was foretold, and the week says how many visits wait.
    const lost = impact?.types.reduce((sum, { online }) => sum + online.lost, 0);
    expect(saved.online).toEqual({ gained: 0, lost });
    expect(dataOf(await desk.call(scheduleWeek, { from: date })).toMove).toBe(saved.toMove);
    expect(await takeBack(saved.undo.id)).toBe(200);
    expect(dataOf(await desk.call(visitsToMove, {})).visits).toEqual([]);
  });

  it('put visits to move on a list with other times, where they are moved one by one or all, or left for a reason', async () => {
    const first = await bookedVisit(base, 1);
    const second = await bookedVisit(base, 4);
    const dates = [...new Set([first, second].map(({ requested }) => requested.start.slice(0, 10)))].sort();
    const people = [...new Set([first, second].map(({ requested }) => requested.providerId ?? ''))];
    const off: WireEdit = {
      do: 'time-off',
      resourceIds: people,
      siteId: null,
      reason: 'Ill',
      startDate: dates[0],
      startMinute: 0,
      endDate: dates[dates.length - 1],
      endMinute: 1440,
    };
    const saved = dataOf(await save([off], true));
    const { visits } = dataOf(await desk.call(visitsToMove, {}));
    expect(visits).toHaveLength(saved.toMove);
    const mine = visits.filter(({ appointmentId }) => [first.id, second.id].includes(appointmentId));
    expect(mine).toHaveLength(2);
    // No two proposals take the same time of one provider.
    const proposals = visits.map(({ proposed }) => `${proposed?.start} ${proposed?.providerId}`);
    expect(new Set(proposals).size).toBe(proposals.length);
    const [one, ...others] = visits;
    const taken = (row: (typeof visits)[number]) => ({
      appointmentId: row.appointmentId,
      version: row.version,
      start: row.proposed?.start ?? '',
      providerId: row.proposed?.providerId ?? null,
    });
    expect(
      dataOf(await desk.call(keepTime, { appointmentId: one.appointmentId, reason: 'Sees Dr. Lund instead' })).undo.id,
    ).toBeTruthy();
    const moved = dataOf(
      await desk.call(acceptTimes, { times: [...others.map(taken), { ...taken(one), version: 99 }] }),
    );
    expect([moved.moved, moved.refused]).toEqual([
      others.length,
      [{ appointmentId: one.appointmentId, tag: 'ChangedMeanwhile' }],
    ]);
    expect(dataOf(await desk.call(visitsToMove, {})).visits).toEqual([]);
    // The old times lie in time off: what is taken back stands there all the same, and waits on the list again.
    const list = async () => dataOf(await desk.call(visitsToMove, {}));
    expect((await list()).moves.map(({ undoId, visits: n }) => [undoId, n])).toEqual([[moved.undo?.id, others.length]]);
    expect(await takeBack(moved.undo?.id ?? '')).toBe(200);
    const again = await list();
    expect(again.moves).toEqual([]);
    const standing = (rows: typeof visits) =>
      rows.map(({ appointmentId, start }) => `${appointmentId} ${start}`).sort();
    expect(standing(again.visits)).toEqual(standing(others));
    dataOf(await desk.call(acceptTimes, { times: again.visits.map(taken) }));
    expect((await list()).visits).toEqual([]);
  });

  it('change one date, one weekday, or all from a date on, and leave the past as it was', async () => {
    const hours = await morning();
    const on = (reach: object, to: object): WireEdit =>
      ({ do: 'change-hours', hoursId: hours.id, version: hours.version, reach, to }) as WireEdit;
    const [date, later] = ['2027-02-02', '2027-02-09'];
    const one = dataOf(await save([on({ of: 'date', date }, { toMinute: 600 })], true));
    const tuesday = async (from: string) => (await laneOf(PROVIDERS.amaya, SITES.canal, from))?.days[1].hours[0];
    expect(await tuesday('2027-02-01')).toMatchObject({
      toMinute: 600,
      hoursId: hours.id,
      changeId: expect.any(String),
    });
    expect(await tuesday('2027-02-08')).toMatchObject({ toMinute: 720, changeId: null });
    const weekly = dataOf(await save([on({ of: 'from', date: later, weekdays: [2] }, { fromMinute: 540 })], true));
    expect(await tuesday('2027-02-08')).toMatchObject({ fromMinute: 540 });
    expect((await laneOf(PROVIDERS.amaya, SITES.canal, '2027-02-08'))?.days[2].hours[0]).toMatchObject({
      fromMinute: 480,
    });
    // The date's change lies before the split and stays with the hours it was made on.
    expect(await tuesday('2027-02-01')).toMatchObject({ toMinute: 600 });
    expect([await takeBack(weekly.undo.id), await takeBack(one.undo.id)]).toEqual([200, 200]);
    expect(await morning()).toMatchObject({ id: hours.id, effectiveUntil: hours.effectiveUntil });
  });

  it('tell two managers at one week: the second is refused, and so is an undo after someone else’s change', async () => {
    const other = await signedIn(base, 'manager');
    const hours = await morning();
    const change = (toMinute: number): WireEdit => ({
      do: 'change-hours',
      hoursId: hours.id,
      version: hours.version,
      reach: { of: 'from', date: '2027-03-01' },
      to: { toMinute },
    });
    const mine = dataOf(await save([change(700)], true));
    expect(refusalOf(await other.call(editSchedule, { edits: [change(690)], agreed: true })).tag).toBe(
      'ChangedMeanwhile',
    );
    const now = await hoursOf(PROVIDERS.amaya, '2027-03-01');
    const changed = now.find((row) => row.toMinute === 700);
    dataOf(
      await other.call(editSchedule, {
        edits: [{ ...change(690), hoursId: changed?.id ?? '', version: changed?.version ?? 0 } as WireEdit],
        agreed: true,
      }),
    );
    expect(refusalOf(await desk.call(undo, { id: mine.undo.id })).tag).toBe('ChangedMeanwhile');
    expect((await hoursOf(PROVIDERS.amaya, '2027-03-01')).some((row) => row.toMinute === 690)).toBe(true);
  });

  it('are not taken back into a time at which the person works elsewhere by now', async () => {
    const lund = { of: 'resource' as const, id: PROVIDERS.lund };
    const fridays = (await hoursOf(PROVIDERS.lund)).filter((row) => row.weekdays.includes(5));
    expect(fridays.length).toBeGreaterThan(0);
    const ended = dataOf(
      await save(
        fridays.map((row) => ({
          do: 'end-hours',
          hoursId: row.id as never,
          version: row.version,
          reach: { of: 'from', date: '2027-04-01', weekdays: [5] },
        })),
        true,
      ),
    );
    const elsewhere = dataOf(
      await save([
        {
          ...saturday({ weekdays: [5], everyWeeks: 1, fromMinute: 480, toMinute: 600 }),
          subject: lund,
          from: '2027-04-01',
        } as WireEdit,
      ]),
    );
    expect(refusalOf(await desk.call(undo, { id: ended.undo.id }))).toMatchObject({
      tag: 'ScheduleRefused',
      codes: ['overlap', 'no-travel-time'],
    });
    // A refused undo is not used up.
    expect([await takeBack(elsewhere.undo.id), await takeBack(ended.undo.id)]).toEqual([200, 200]);
  });

  it('are all done or none: one refused edit among many saves nothing', async () => {
    const before = await hoursOf(PROVIDERS.dray);
    const gone: WireEdit = { do: 'drop-time-off', id: crypto.randomUUID() };
    expect(refusalOf(await save([saturday(), gone]))).toMatchObject({
      tag: 'ScheduleRefused',
      codes: ['gone'],
      issues: [{ path: 'edits.1', code: 'gone' }],
    });
    expect(await hoursOf(PROVIDERS.dray)).toEqual(before);
    expect(refusalOf(await save([saturday({ siteId: crypto.randomUUID() })])).tag).toBe('NotFound');
  });

  it('let the brush open and close what patients see, over several people at once, and refuse closed time', async () => {
    const { start, providerId } = await freeTime(base);
    const date = start.slice(0, 10);
    const stroke = (resourceId: string, fromMinute: number, toMinute: number) => ({
      resourceId,
      date,
      fromMinute,
      toMinute,
    });
    const paint = (strokes: ReturnType<typeof stroke>[], value: 'shown' | 'desk-only' | 'by-rule'): WireEdit => ({
      do: 'brush',
      siteId: SITES.canal,
      strokes,
      value,
    });
    const starts = async () =>
      dataOf(await desk.call(publicDays, FOLLOW_UP)).days.find((day) => day.date === date)?.starts ?? 0;
    const before = await starts();
    const people = [PROVIDERS.amaya, PROVIDERS.lund].filter((id) => id);
    const saved = dataOf(
      await save([
        paint(
          people.map((id) => stroke(id, 480, 1020)),
          'desk-only',
        ),
      ]),
    );
    expect([before > 0, await starts()]).toEqual([true, 0]);
    const lane = await laneOf(providerId ?? '', SITES.canal, date);
    expect(lane?.days[0].brush).toMatchObject([{ value: 'desk-only', fromMinute: 480 }]);
    expect(await takeBack(saved.undo.id)).toBe(200);
    expect(await starts()).toBe(before);
    expect(refusalOf(await save([paint([stroke(PROVIDERS.amaya, 60, 120)], 'shown')])).codes).toEqual([
      'nothing-to-brush',
    ]);
  });

  it('close a site: visits go to the list, nothing is booked there any more, and taking it back opens it', async () => {
    const { requested, id } = await bookedVisit(base, 2);
    const date = requested.start.slice(0, 10);
    const close: WireEdit = {
      do: 'close-site',
      siteId: SITES.canal,
      reason: 'Water',
      startDate: date,
      startMinute: 0,
      endDate: date,
      endMinute: 1440,
    };
    const saved = dataOf(await save([close], true));
    expect(dataOf(await desk.call(publicDays, FOLLOW_UP)).days.find((day) => day.date === date)?.starts).toBe(0);
    expect(
      dataOf(await desk.call(visitsToMove, { siteId: SITES.canal })).visits.find((row) => row.appointmentId === id)
        ?.codes,
    ).toEqual(['site-closed']);
    const { changes } = dataOf(await desk.call(upcomingChanges, { from: date, days: 1 }));
    expect(changes).toContainEqual(expect.objectContaining({ what: 'closure', siteId: SITES.canal, note: 'Water' }));
    expect(await takeBack(saved.undo.id)).toBe(200);
    expect(dataOf(await desk.call(visitsToMove, {})).visits).toEqual([]);
    // In an emergency everybody who can be told is told in the same act, and hears it if the site opens after all.
    const kinds = async () =>
      (
        await world.sql.query<{ kind: string }>(
          "select kind from message where appointment_id = $1 and status <> 'withdrawn' and kind <> 'reminder' order by seq",
          [id],
        )
      ).rows.map(({ kind }) => kind);
    const planned = async () =>
      Number(
        (
          await world.sql.query(
            "select count(*) as n from message where appointment_id = $1 and status = 'planned' and kind = 'reminder'",
            [id],
          )
        ).rows[0].n,
      );
    expect(await planned()).toBeGreaterThan(0);
    await until(async () => (await kinds()).includes('confirmation'), 'the confirmation is planned');
    const told = dataOf(await desk.call(editSchedule, { edits: [close], agreed: true, tell: true }));
    expect(told.told).toBeGreaterThan(0);
    expect(told.told).toBeLessThanOrEqual(told.toMove);
    expect([(await kinds()).at(-1), await planned()]).toEqual(['must-move', 0]);
    expect(await takeBack(told.undo.id)).toBe(200);
    expect(['restored', 'confirmation']).toContain((await kinds()).at(-1));
    expect(await planned()).toBeGreaterThan(0);
  });

  it('let a provider change their own hours only, and read-only staff none', async () => {
    const provider = await signedIn(base, 'provider');
    const own = {
      ...saturday({ siteId: SITES.canal, weekdays: [7] }),
      subject: { of: 'resource', id: PROVIDERS.amaya },
    } as WireEdit;
    expect(refusalOf(await provider.call(editSchedule, { edits: [saturday()] })).tag).toBe('NotAllowed');
    expect(
      refusalOf(
        await provider.call(editSchedule, {
          edits: [{ do: 'copy-week', of: PROVIDERS.amaya, to: [PROVIDERS.dray], from: '2027-01-04' }],
        }),
      ).tag,
    ).toBe('NotAllowed');
    expect((await provider.call(editSchedule, { edits: [own] })).status).toBe(200);
    const reader = await signedIn(base, 'read-only');
    expect(refusalOf(await reader.call(previewSchedule, { edits: [own] })).tag).toBe('NotAllowed');
    expect(dataOf(await reader.call(scheduleWeek, { from: TEST_DAY })).mayEdit).toBe('none');
  });

  it('let a provider ask for time off, which holds only once approved, with the visits to move shown to whoever decides', async () => {
    const provider = await signedIn(base, 'provider');
    const span = {
      siteId: null,
      startDate: '2026-12-08',
      startMinute: 0,
      endDate: '2026-12-08',
      endMinute: 1440,
      reason: 'Moving house',
    };
    const asked = dataOf(await provider.call(requestTimeOff, span));
    const off = async () => (await laneOf(PROVIDERS.amaya, SITES.canal, '2026-12-07'))?.days[1].timeOff.length;
    expect(await off()).toBe(0);
    expect(refusalOf(await desk.call(requestTimeOff, span)).tag).toBe('NotAllowed');
    expect(refusalOf(await provider.call(decideTimeOff, { id: asked.id, approve: true, answer: '' })).tag).toBe(
      'NotAllowed',
    );
    const [request] = dataOf(await desk.call(listTimeOffRequests, {})).requests;
    expect([request.name, request.reason, request.status]).toEqual(['Dr. Inés Amaya', 'Moving house', 'requested']);
    expect(request.visitsToMove.length).toBeGreaterThan(0);
    const decide = (more: object) =>
      desk.call(decideTimeOff, { id: asked.id, approve: true, answer: 'Enjoy it', ...more });
    expect(refusalOf(await decide({})).tag).toBe('AgreementNeeded');
    const approved = dataOf(await decide({ agreed: true }));
    expect([approved.toMove, await off()]).toEqual([request.visitsToMove.length, 1]);
    expect(
      dataOf(await provider.call(listTimeOffRequests, {})).requests.map(({ status, answer }) => [status, answer]),
    ).toEqual([['approved', 'Enjoy it']]);
    expect(refusalOf(await decide({ agreed: true })).tag).toBe('DecidedAlready');
    expect(refusalOf(await provider.call(undo, { id: asked.undo.id })).tag).toBe('DecidedAlready');
    expect([await takeBack(approved.undo.id), await off()]).toEqual([200, 0]);
    expect(dataOf(await desk.call(visitsToMove, {})).visits).toEqual([]);
    const declined = dataOf(await decide({ approve: false, answer: 'Too many visits' }));
    expect([declined.toMove, await off()]).toEqual([0, 0]);
    const wrong = await provider.send('post', requestTimeOff.path, { ...span, endDate: '2026-12-01' });
    expect(refusalOf(wrong).issues).toEqual([{ path: 'endDate', code: 'until-before-from' }]);
  });

  it('never let a booking slip between what is judged and what is written', async () => {
    const requested = await freeTime(base, FOLLOW_UP, 5);
    const date = requested.start.slice(0, 10);
    const off: WireEdit = {
      do: 'time-off',
      resourceIds: [requested.providerId ?? ''],
      siteId: null,
      reason: '',
      startDate: date,
      startMinute: 0,
      endDate: date,
      endMinute: 1440,
    };
    const [booked] = await Promise.allSettled([bookedVisit(base, 5), save([off], true)]);
    const { visits } = dataOf(await desk.call(visitsToMove, {}));
    // Whoever came first, the visit is either refused or on the list.
    if (booked.status === 'fulfilled') {
      const { start, providerId } = booked.value.requested;
      const mustMove = start.slice(0, 10) === date && providerId === requested.providerId;
      expect(visits.some((row) => row.appointmentId === booked.value.id)).toBe(mustMove);
    } else expect(visits.every((row) => row.start !== requested.start)).toBe(true);
  });
});
