import { randomUUID } from 'node:crypto';
import { cancelVisit } from '@zaguan/contracts/booking';
import { askRequest, withdrawRequest } from '@zaguan/contracts/desk';
import {
  answerInvitation,
  bookByInvitation,
  invitationDays,
  type InvitationTemplateDoc,
  invitationsOfPatient,
  invitationTemplates,
  invitationTimes,
  lookAtInvitation,
  openInvitation,
  sendInvitations,
} from '@zaguan/contracts/invitations';
import { stopMessages } from '@zaguan/contracts/messages';
import { whyNot } from '@zaguan/contracts/openings';
import { lookAtLink } from '@zaguan/contracts/patientVisit';
import { recallPlans, whyRecalled } from '@zaguan/contracts/recalls';
import { handleWork, todaysWork } from '@zaguan/contracts/today';
import { addDays, addMonths, epochToWall } from '@zaguan/core/time';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { TO_FOLLOW_UP, tokenOfInvitation } from '../fixtures/invitations.ts';
import { AFTER_FOLLOW_UP, aPatient, aVisit } from '../fixtures/recalls.ts';
import { makeWorld, passMinutes, TEST_DAY, type World } from '../fixtures/world.ts';

const BORN = '1990-06-15';
const EVERY_DAY = [1, 2, 3, 4, 5, 6, 7] as const;
const NO_TEMPLATE = { kind: 'established', channel: 'online', templateId: randomUUID() };

describe('the page of an invitation', () => {
  let world: World;
  let desk: Client;
  let patient: Client;
  const planId = randomUUID();
  beforeAll(async () => {
    world = await makeWorld('invitation_page');
    desk = await signedIn(world.servers[0].url, 'coordinator');
    patient = new Client(world.servers[0].url);
    dataOf(await desk.call(recallPlans.save, { records: [{ id: planId, version: 0, doc: AFTER_FOLLOW_UP }] }));
  });
  afterAll(() => world.close());

  const template = async (doc: Partial<InvitationTemplateDoc> = {}) => {
    const id = randomUUID();
    const whole = { ...TO_FOLLOW_UP, name: id.slice(0, 8), ...doc };
    dataOf(await desk.call(invitationTemplates.save, { records: [{ id, version: 0, doc: whole }] }));
    return id;
  };
  /** Somebody who is due, invited by a template; with the link they got. */
  const invited = async (name: string, doc: Partial<InvitationTemplateDoc> = {}, about: object = { planId }) => {
    const patientId = await aPatient(world.sql, name);
    await aVisit(world.sql, patientId, addMonths(TEST_DAY, -8), 'fulfilled');
    const call = { templateId: await template(doc), planId: null, ...about, patientIds: [patientId] };
    const { sent } = dataOf(await desk.call(sendInvitations, call as never));
    return { patientId, id: sent[0].id, token: await tokenOfInvitation(world, sent[0].id) };
  };
  const who = (token: string) => ({ token, birthDate: BORN, language: 'en' as const });
  const ANY = { visitTypeId: TYPES.follow, siteId: null, providerId: null, part: null };
  const days = async (token: string, narrowed: object = {}) =>
    dataOf(await patient.call(invitationDays, { ...who(token), ...ANY, ...narrowed } as never));
  const times = async (token: string, date: string, narrowed: object = {}) =>
    dataOf(await patient.call(invitationTimes, { ...who(token), ...ANY, ...narrowed, date } as never)).lanes;
  const first = async (token: string, narrowed: object = {}) => {
    const [{ date }] = (await days(token, narrowed)).days;
    const [{ siteId, providerId, starts, timeZone }] = await times(token, date, narrowed);
    return { wanted: { visitTypeId: TYPES.follow, siteId, providerId, start: starts[0] }, timeZone };
  };
  const book = (token: string, wanted: Awaited<ReturnType<typeof first>>['wanted'], by = patient) =>
    by.call(bookByInvitation, { ...who(token), ...wanted });
  const followed = async (patientId: string) =>
    dataOf(await desk.call(invitationsOfPatient, { patientId })).invitations[0];
  const rowOf = async (text: string, values: unknown[]) => (await world.sql.query(text, values)).rows[0];

  it('shows whose clinic it is, and the rest after the date of birth; looking changes nothing', async () => {
    const { token, patientId } = await invited('Looker');
    for (let i = 0; i < 3; i++)
      expect(dataOf(await patient.call(lookAtInvitation, { token }))).toMatchObject({ locked: false, over: null });
    expect((await followed(patientId)).events.map(({ kind }) => kind)).toEqual(['planned']);
    const { invitation } = dataOf(await patient.call(openInvitation, who(token)));
    expect(invitation).toMatchObject({ givenName: 'Robin', reason: 'Yearly check', visit: null, mayAnswer: true });
    expect(invitation.types.map(({ id }) => id)).toEqual([TYPES.follow]);
    expect(invitation.types[0].minutes).toBeGreaterThan(0);
    dataOf(await patient.call(openInvitation, who(token)));
    expect((await followed(patientId)).events.map(({ kind }) => kind)).toEqual(['planned', 'opened']);
    // A visit's link and an invitation's are not each other's.
    expect(refusalOf(await patient.call(lookAtLink, { token })).tag).toBe('LinkGone');
    expect(refusalOf(await patient.call(lookAtInvitation, { token: 'x'.repeat(16) })).tag).toBe('LinkGone');
    const moved = await fetch(`${world.servers[0].url}/i/${token}`, { redirect: 'manual' });
    expect([moved.status, moved.headers.get('location')]).toEqual([302, `/book/i/${token}`]);
  });

  it('locks after five wrong dates of birth, tells the desk, and opens to nobody then', async () => {
    const { token, patientId } = await invited('Forwarded');
    const wrong = () => patient.call(openInvitation, { ...who(token), birthDate: '1991-01-01' });
    for (const left of [4, 3, 2, 1]) expect(refusalOf(await wrong()).facts.left).toBe(left);
    expect(refusalOf(await wrong()).tag).toBe('LinkLocked');
    expect(refusalOf(await patient.call(openInvitation, who(token))).tag).toBe('LinkLocked');
    expect(refusalOf(await patient.call(invitationDays, { ...who(token), ...ANY })).tag).toBe('LinkLocked');
    expect(dataOf(await patient.call(lookAtInvitation, { token })).locked).toBe(true);
    const { locked, events } = await followed(patientId);
    expect(locked).toBe(true);
    expect(events.map(({ kind }) => kind)).toEqual(['planned', 'locked']);
    const { work } = dataOf(await desk.call(todaysWork, {}));
    const told = work.find((row) => row.kind === 'failed' && row.invited?.patientId === patientId);
    expect(told).toMatchObject({ reason: 'link-locked', invited: { name: 'Robin Forwarded' } });
    // Dealt with, it is gone; the desk has called.
    dataOf(await desk.call(handleWork, { kind: 'failed', id: told?.id ?? '', outcome: 'spoke' }));
    const after = dataOf(await desk.call(todaysWork, {})).work;
    expect(after.some(({ id }) => id === told?.id)).toBe(false);
    await passMinutes(world, 13 * 60);
    dataOf(await patient.call(openInvitation, who(token)));
    await passMinutes(world, -13 * 60);
  });

  it('offers what its limits allow, with counts that are the times behind them', async () => {
    const { token } = await invited('Limited', { siteIds: [SITES.canal], providerIds: [PROVIDERS.amaya] });
    const all = await days(token);
    expect(all.days.length).toBeGreaterThan(3);
    expect(all.providers.map(({ id }) => id)).toEqual([PROVIDERS.amaya]);
    for (const { date, starts } of all.days.slice(0, 3)) {
      const lanes = await times(token, date);
      expect(lanes.map(({ siteId, providerId }) => [siteId, providerId])).toEqual([[SITES.canal, PROVIDERS.amaya]]);
      expect(lanes[0].starts).toHaveLength(starts);
    }
    // The parts of the day share a day's times out.
    const [{ date, starts }] = all.days;
    let sum = 0;
    for (const part of ['morning', 'afternoon', 'evening'] as const) {
      const narrowed = await days(token, { part });
      sum += narrowed.days.find((day) => day.date === date)?.starts ?? 0;
      for (const lane of await times(token, date, { part }))
        for (const start of lane.starts) {
          const { minute } = epochToWall(lane.timeZone, Date.parse(start) / 60_000);
          expect(
            { morning: minute < 720, afternoon: minute >= 720 && minute < 1020, evening: minute >= 1020 }[part],
          ).toBe(true);
        }
    }
    expect(sum).toBe(starts);
    // Nothing else comes of asking for more.
    expect((await days(token, { siteId: SITES.mesa })).days).toEqual([]);
    expect((await days(token, { visitTypeId: TYPES.skin })).days).toEqual([]);
    expect((await days(token, { providerId: randomUUID() })).days).toEqual([]);
  });

  it('keeps two kinds that share a clinic day from each other’s times, under the lock too', async () => {
    const half = (fromMinute: number, toMinute: number) => ({
      ...{ siteIds: [SITES.canal], providerIds: [PROVIDERS.amaya] },
      hours: [{ weekdays: [...EVERY_DAY], fromMinute, toMinute }],
    });
    const [early, late] = [await invited('Early', half(0, 720)), await invited('Late', half(720, 1440))];
    const { wanted } = await first(early.token);
    const other = await first(late.token);
    const day = epochToWall(other.timeZone, Date.parse(wanted.start) / 60_000).date;
    const seen = (await times(late.token, day)).flatMap(({ starts }) => starts);
    expect(seen).not.toContain(wanted.start);
    const refused = refusalOf(await book(late.token, wanted));
    expect(refused).toMatchObject({ tag: 'NotOffered', codes: ['invitation-hours'] });
    expect(refused.nearest?.length).toBeGreaterThan(0);
    for (const { start } of refused.nearest ?? [])
      expect(epochToWall(other.timeZone, Date.parse(start) / 60_000).minute).toBeGreaterThanOrEqual(720);
    // *Why not?* answers the desk by the same rules, for either kind.
    const why = async ({ id }: { id: string }) => {
      const { templateId } = await rowOf('select template_id as "templateId" from invitation where id = $1', [id]);
      const { siteId, providerId, start, visitTypeId } = wanted;
      const asked = { visitTypeId, siteId, providerId: providerId ?? undefined, start, templateId };
      return dataOf(await desk.call(whyNot, { ...asked, kind: 'established', channel: 'online' } as never));
    };
    const [forEarly, forLate] = [await why(early), await why(late)];
    expect(forEarly.offered).toBe(true);
    expect(forLate.answers.filter(({ passed }) => !passed).map(({ code }) => code)).toEqual(['invitation-hours']);
    expect(refusalOf(await desk.call(whyNot, { ...NO_TEMPLATE, ...wanted } as never)).tag).toBe('NotFound');
    dataOf(await book(early.token, wanted));
  });

  it('books straight into the Daybook with reason and origin, once, and tells of it', async () => {
    const { token, patientId, id } = await invited('Booker');
    const { wanted } = await first(token);
    const [one, two] = await Promise.all([book(token, wanted), book(token, wanted)]);
    expect(dataOf(one).link).toBe(dataOf(two).link);
    expect(dataOf(one)).toMatchObject({ start: wanted.start, usesLeft: 0 });
    expect(dataOf(one).link).toMatch(/\/v\/[\w-]{16}$/);
    const visit = await rowOf(
      'select id, origin, reason_text, status, identity from appointment where patient_id = $1 and status = $2',
      [...[patientId, 'booked']],
    );
    expect(visit).toMatchObject({ origin: 'invitation', reason_text: 'Yearly check', identity: 'sure' });
    expect(await rowOf('select count(*)::int as n from occupancy where appointment_id = $1', [visit.id])).not.toEqual({
      n: 0,
    });
    expect((await followed(patientId)).state).toBe('booked');
    expect((await followed(patientId)).visit?.id).toBe(visit.id);
    const kinds = (await world.sql.query('select kind from message where appointment_id = $1', [visit.id])).rows;
    expect(kinds.map(({ kind }) => kind)).toContain('confirmation');
    expect(refusalOf(await patient.call(openInvitation, who(token))).facts.over).toBe('used');
    expect(dataOf(await patient.call(lookAtInvitation, { token })).over).toBe('used');
    const plans = dataOf(await desk.call(whyRecalled, { patientId })).plans;
    expect(plans.find((plan) => plan.planId === planId)?.state).toBe('booked');
    const trail = await rowOf(
      "select after from audit_entry where command = 'invitations.book' and subjects @> $1::jsonb",
      [JSON.stringify([{ kind: 'invitation', id }])],
    );
    expect(trail.after).toMatchObject({ origin: 'invitation' });
  });

  it('answers who is too late with other times that it may book, and keeps the invitation', async () => {
    const limits = { siteIds: [SITES.canal], providerIds: [PROVIDERS.amaya] };
    const all = [];
    for (let i = 0; i < 6; i++) all.push(await invited(`Racer${i}`, limits));
    const { wanted } = await first(all[0].token);
    const answers = await Promise.all(all.map(({ token }) => book(token, wanted)));
    const won = answers.filter(({ data }) => data !== null);
    expect(won).toHaveLength(1);
    for (const [i, answer] of answers.entries())
      if (answer.data === null) {
        const refused = refusalOf(answer);
        expect(refused.tag).toBe('TimeTaken');
        const again = { ...wanted, start: refused.nearest?.[0].start ?? '' };
        if (i === answers.findLastIndex(({ data }) => data === null)) dataOf(await book(all[i].token, again));
      }
  });

  it('says that a visit was booked by phone, and is of use again when that is off', async () => {
    const { token, patientId } = await invited('Caller');
    const { wanted } = await first(token);
    const visit = await aVisit(world.sql, patientId, addDays(TEST_DAY, 6), 'booked');
    const { invitation } = dataOf(await patient.call(openInvitation, who(token)));
    expect(invitation.moves).toBe(false);
    expect(invitation.visit?.start.slice(0, 10)).toBe(addDays(TEST_DAY, 6));
    expect(refusalOf(await book(token, wanted)).facts.over).toBe('booked');
    dataOf(await desk.call(cancelVisit, { id: visit, version: 1, reason: 'patient-asked', note: '' } as never));
    dataOf(await book(token, wanted));
  });

  it('takes “later”, “done elsewhere” and “no thanks” for an answer, each kept with who said it', async () => {
    for (const [kind, date, state] of [
      ['later', addMonths(TEST_DAY, 1), 'deferred'],
      ['done-elsewhere', addDays(TEST_DAY, -9), 'not-due'],
      ['declined', null, 'declined'],
    ] as const) {
      const { token, patientId } = await invited(`Says${kind}`);
      const say = (when: string | null) => patient.call(answerInvitation, { ...who(token), kind, date: when });
      const wrong = kind === 'declined' ? TEST_DAY : kind === 'later' ? TEST_DAY : addDays(TEST_DAY, 2);
      expect(refusalOf(await say(wrong)).tag).toBe('InvalidInput');
      dataOf(await say(date));
      const plan = dataOf(await desk.call(whyRecalled, { patientId })).plans.find((each) => each.planId === planId);
      expect(plan).toMatchObject({ state, choices: [{ kind, date, saidBy: null }] });
      expect((await followed(patientId)).state).toBe(kind);
      expect(refusalOf(await say(date)).facts.over).toBe('answered');
    }
    const { token, patientId } = await invited('Ofnoplan', {}, {});
    const none = await patient.call(answerInvitation, { ...who(token), kind: 'declined', date: null });
    expect(refusalOf(none).issues).toEqual([{ path: 'kind', code: 'no-plan' }]);
    // No to all of them belongs to the number, and leaves messages about visits alone.
    const never = (date: string | null) => patient.call(answerInvitation, { ...who(token), kind: 'never', date });
    expect(refusalOf(await never(TEST_DAY)).issues).toEqual([{ path: 'date', code: 'no-date-here' }]);
    dataOf(await never(null));
    expect(
      await rowOf(
        'select opted_out(contact_point_id, true) as recalls, opted_out(contact_point_id, false) as visits from patient_contact where patient_id = $1',
        [patientId],
      ),
    ).toEqual({ recalls: true, visits: false });
  });

  it('says that it has run out, was withdrawn, or that nothing is left', async () => {
    const old = await invited('Runsout', { livesDays: 1 });
    await passMinutes(world, 3 * 1440);
    expect(dataOf(await patient.call(lookAtInvitation, { token: old.token })).over).toBe('expired');
    expect(refusalOf(await patient.call(openInvitation, who(old.token))).facts.over).toBe('expired');
    await passMinutes(world, -3 * 1440);
    // The provider no longer does this: what stands in the template now counts, and nothing is left.
    const gone = await invited('Providergone', { providerIds: [PROVIDERS.amaya] });
    expect((await days(gone.token)).days.length).toBeGreaterThan(0);
    const { templateId } = await rowOf('select template_id as "templateId" from invitation where id = $1', [gone.id]);
    const changed = { ...TO_FOLLOW_UP, name: 'Nothing left', untilDate: addDays(TEST_DAY, -1) };
    dataOf(await desk.call(invitationTemplates.save, { records: [{ id: templateId, version: 1, doc: changed }] }));
    expect((await days(gone.token)).days).toEqual([]);
    const dead = await invited('Died');
    await world.sql.query("update patient set status = 'deceased', deceased_on = $2 where id = $1", [
      dead.patientId,
      TEST_DAY,
    ]);
    expect(refusalOf(await patient.call(openInvitation, who(dead.token))).facts.over).toBe('withdrawn');
  });

  it('books a request, gives a visit another time, and books as often as its template says', async () => {
    const asked = await aPatient(world.sql, 'Asked');
    const { id: request } = dataOf(
      await desk.call(askRequest, {
        ...{ patientId: asked, visitTypeId: TYPES.follow, urgency: 'routine', reason: 'As agreed' },
        ...{ siteId: null, providerId: null, fromDate: TEST_DAY, dueDate: addDays(TEST_DAY, 30) },
      } as never),
    );
    // A template of several types books the one that was asked for.
    const templateId = await template({ typeIds: [TYPES.skin, TYPES.follow] });
    const send = async (about: object, patientId: string) => {
      const call = { templateId, planId: null, ...about, patientIds: [patientId] };
      return tokenOfInvitation(world, dataOf(await desk.call(sendInvitations, call as never)).sent[0].id);
    };
    const forRequest = await send({ requestId: request }, asked);
    dataOf(await book(forRequest, (await first(forRequest)).wanted));
    expect(await rowOf('select state from booking_request where id = $1', [request])).toEqual({ state: 'booked' });

    // One that was withdrawn meanwhile books nothing more.
    const { id: second } = dataOf(
      await desk.call(askRequest, {
        ...{
          patientId: await aPatient(world.sql, 'Unasked'),
          visitTypeId: TYPES.follow,
          urgency: 'routine',
          reason: '',
        },
        ...{ siteId: null, providerId: null, fromDate: TEST_DAY, dueDate: addDays(TEST_DAY, 30) },
      } as never),
    );
    const { patientId: unasked } = await rowOf('select patient_id as "patientId" from booking_request where id = $1', [
      second,
    ]);
    const forSecond = await send({ requestId: second }, unasked);
    const { wanted: tooLate } = await first(forSecond);
    dataOf(await desk.call(withdrawRequest, { id: second, version: 1, because: 'Not needed' } as never));
    expect(dataOf(await patient.call(lookAtInvitation, { token: forSecond })).over).toBe('withdrawn');
    expect(refusalOf(await book(forSecond, tooLate)).facts.over).toBe('withdrawn');

    const moving = await aPatient(world.sql, 'Moving');
    // Another one of the type is no reason to leave this one where it can't stay.
    await aVisit(world.sql, moving, addDays(TEST_DAY, 11), 'booked');
    const old = await aVisit(world.sql, moving, addDays(TEST_DAY, 4), 'booked');
    const toMove = await send({ moveId: old }, moving);
    const { invitation } = dataOf(await patient.call(openInvitation, who(toMove)));
    expect(invitation).toMatchObject({ moves: true, mayAnswer: false });
    expect(invitation.types.map(({ id }) => id)).toEqual([TYPES.follow]);
    expect(invitation.visit?.start.slice(0, 10)).toBe(addDays(TEST_DAY, 4));
    dataOf(await book(toMove, (await first(toMove)).wanted));
    expect(await rowOf('select status, cancel_reason from appointment where id = $1', [old])).toEqual({
      ...{ status: 'cancelled', cancel_reason: 'to-be-rebooked' },
    });

    const twice = await invited('Twice', { uses: 2 });
    dataOf(await book(twice.token, (await first(twice.token)).wanted));
    const next = (await days(twice.token)).days[1].date;
    const [lane] = await times(twice.token, next);
    const again = {
      visitTypeId: TYPES.follow,
      siteId: lane.siteId,
      providerId: lane.providerId,
      start: lane.starts[0],
    };
    expect(dataOf(await book(twice.token, again)).usesLeft).toBe(0);
    expect(refusalOf(await book(twice.token, { ...again, start: lane.starts[1] })).facts.over).toBe('used');
  });

  it('is ended for good by one click in the mail program (RFC 8058), and visits are still told of', async () => {
    const id = await aPatient(world.sql, 'Mailed', { phone: false });
    await aVisit(world.sql, id, addMonths(TEST_DAY, -8), 'fulfilled');
    const contact = randomUUID();
    await world.sql.query("insert into contact_point (id, kind, value) values ($1, 'email', 'mailed@example.org')", [
      contact,
    ]);
    await world.sql.query('insert into patient_contact (patient_id, contact_point_id) values ($1, $2)', [id, contact]);
    const templateId = await template();
    const call = { templateId, planId, patientIds: [id] };
    const { sent } = dataOf(await desk.call(sendInvitations, call as never));
    await tokenOfInvitation(world, sent[0].id);
    const mail = await rowOf(
      "select e.raw, e.subject from simulated.mail e join message m on e.id = '<' || m.id || '@zaguan.invalid>' where m.invitation_id = $1",
      [sent[0].id],
    );
    expect(mail.subject).toMatch(/time for a visit$/);
    const raw = String(mail.raw).replace(/\r?\n[ \t]/g, '');
    expect(raw).toMatch(/^List-Unsubscribe-Post: List-Unsubscribe=One-Click\r?$/m);
    const stop = /List-Unsubscribe:\s*<[^>]*\/book\/stop\/([\w-]{64})>/.exec(raw)?.[1] ?? '';
    const clicked = await fetch(`${world.servers[0].url}/book/stop/${stop}`, {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: 'List-Unsubscribe=One-Click',
    });
    expect(clicked.status).toBe(200);
    expect(dataOf(await patient.call(stopMessages, { token: stop }))).toEqual({ purpose: 'recalls' });
    expect(await rowOf('select opted_out($1, true) as recalls, opted_out($1, false) as visits', [contact])).toEqual({
      ...{ recalls: true, visits: false },
    });
  });
});
