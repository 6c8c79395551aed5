import { placeHold, setStatus } from '@zaguan/contracts/booking';
import { publicVisitTypes } from '@zaguan/contracts/clinic';
import { visitMessages } from '@zaguan/contracts/messages';
import { openLink } from '@zaguan/contracts/patientVisit';
import { todaysWork } from '@zaguan/contracts/today';
import { undo } from '@zaguan/contracts/undo';
import { approveRequest, declineRequest, listApprovals } from '@zaguan/contracts/identityReview';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { linkOn } from '../fixtures/link.ts';
import { bookedVisit, MARTA } from '../fixtures/patient.ts';
import { until } from '../fixtures/until.ts';
import { makeWorld, passMinutes, type World } from '../fixtures/world.ts';

describe('a clinic that approves self-bookings', () => {
  let world: World;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('approvals');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
    await world.sql.query("update online_policy set approval = 'all' where visit_type_id = $1", [TYPES.follow]);
  });
  afterAll(() => world.close());

  const row = async (id: string) =>
    (
      await world.sql.query<{ status: string; approval: string; version: number }>(
        'select status, approval, version from appointment where id = $1',
        [id],
      )
    ).rows[0];
  const kinds = async (id: string, status: string) =>
    dataOf(await desk.call(visitMessages, { id }))
      .messages.filter((message) => message.status === status)
      .map(({ kind }) => kind);
  const came = (id: string, kind: string) =>
    until(async () => (await kinds(id, 'delivered')).includes(kind as never), `a message: ${kind}`);
  const request = async (id: string) =>
    dataOf(await desk.call(listApprovals, {})).requests.find(({ appointmentId }) => appointmentId === id);

  it('keeps the time, tells the patient that it waits, and lists it for the desk', async () => {
    const { id, requested } = await bookedVisit(base, 0);
    expect(await row(id)).toMatchObject({ status: 'pending', approval: 'waiting' });
    await came(id, 'requested');
    // Nobody is confirmed or reminded of what is not agreed.
    expect(await kinds(id, 'planned')).not.toContain('reminder');
    expect(refusalOf(await new Client(base).call(placeHold, requested)).tag).toBe('TimeTaken');
    expect(await request(id)).toMatchObject({ start: requested.start, reason: MARTA.reason, kind: 'established' });
    expect(dataOf(await desk.call(todaysWork, {})).work.map(({ kind }) => kind)).toContain('approval');
    const token = await linkOn(world, id);
    const seen = dataOf(await new Client(base).call(openLink, { token, birthDate: MARTA.birthDate, language: 'en' }));
    expect(seen.visit).toMatchObject({ waiting: true });
  });

  it('approves: booked, confirmed and reminded; undo lets it wait again', async () => {
    const { id } = await bookedVisit(base, 1);
    const { version } = await row(id);
    expect(refusalOf(await desk.call(approveRequest, { id, version: version + 5 })).tag).toBe('ChangedMeanwhile');
    const approved = dataOf(await desk.call(approveRequest, { id, version }));
    expect(await row(id)).toMatchObject({ status: 'booked', approval: 'approved' });
    await came(id, 'confirmation');
    expect(await kinds(id, 'planned')).toContain('reminder');
    expect(await request(id)).toBeUndefined();
    expect(refusalOf(await desk.call(approveRequest, { id, version: version + 1 })).tag).toBe('DecidedAlready');
    dataOf(await desk.call(undo, { id: approved.undo.id }));
    expect(await row(id)).toMatchObject({ status: 'pending', approval: 'waiting' });
    expect(await kinds(id, 'planned')).not.toContain('reminder');
    expect(await request(id)).toBeDefined();
  });

  it('declines with words that the patient gets, and frees the time; undo takes it again', async () => {
    const { id, requested } = await bookedVisit(base, 2);
    const { version } = await row(id);
    const empty = await desk.call(declineRequest, { id, version, words: '   ' });
    expect(refusalOf(empty).issues).toEqual([{ path: 'words', code: 'reason-empty' }]);
    const words = 'Please call us first, we need your test results.';
    const declined = dataOf(await desk.call(declineRequest, { id, version, words }));
    expect(await row(id)).toMatchObject({ status: 'cancelled', approval: 'declined' });
    await came(id, 'declined');
    const { rows } = await world.sql.query<{ body: string }>(
      "select body from message where appointment_id = $1 and kind = 'declined'",
      [id],
    );
    expect(rows[0].body).toContain(words);
    dataOf(await desk.call(undo, { id: declined.undo.id }));
    expect(await row(id)).toMatchObject({ status: 'pending', approval: 'waiting' });
    expect(refusalOf(await new Client(base).call(placeHold, requested)).tag).toBe('TimeTaken');
  });

  it('keeps a request whose time has passed until somebody decides, and then tells of no time that was', async () => {
    const late = await makeWorld('approvals_late');
    const staff = await signedIn(late.servers[0].url, 'coordinator');
    await late.sql.query("update online_policy set approval = 'all' where visit_type_id = $1", [TYPES.follow]);
    const { id } = await bookedVisit(late.servers[0].url, 0);
    const [before] = dataOf(await staff.call(listApprovals, {})).requests;
    expect(before).toMatchObject({ appointmentId: id, passed: false });
    await passMinutes(late, 20 * 24 * 60);
    expect(dataOf(await staff.call(listApprovals, {})).requests).toMatchObject([{ appointmentId: id, passed: true }]);
    expect(dataOf(await staff.call(todaysWork, {})).work.map(({ kind }) => kind)).toContain('approval');
    dataOf(await staff.call(approveRequest, { id, version: before.version }));
    expect(dataOf(await staff.call(listApprovals, {})).requests).toEqual([]);
    const told = dataOf(await staff.call(visitMessages, { id })).messages.map(({ kind }) => kind);
    expect(told).not.toContain('confirmation');
    expect(told).not.toContain('reminder');
    await late.close();
  });

  it('lets nobody decide who may not', async () => {
    const { id } = await bookedVisit(base, 3);
    const reader = await signedIn(base, 'read-only');
    const { version } = await row(id);
    expect((await reader.call(approveRequest, { id, version })).status).toBe(403);
    expect((await reader.call(declineRequest, { id, version, words: 'no' })).status).toBe(403);
    // Nor by another way: a visit that waits becomes booked by being approved, and the patient is told.
    for (const role of ['front-desk', 'manager'] as const)
      expect(refusalOf(await (await signedIn(base, role)).call(setStatus, { id, to: 'booked', version })).tag).toBe(
        'WrongStatus',
      );
    expect(await row(id)).toMatchObject({ status: 'pending' });
  });

  it('tells how long a visit takes only where the clinic shows it', async () => {
    const length = async () =>
      dataOf(
        await new Client(base).call(publicVisitTypes, { siteId: SITES.canal, kind: 'established', language: 'en' }),
      ).visitTypes.find((type) => type.id === TYPES.follow)?.lengthMin;
    expect(await length()).toEqual(expect.any(Number));
    await world.sql.query('update online_policy set show_length = false where visit_type_id = $1', [TYPES.follow]);
    expect(await length()).toBeNull();
  });
});
