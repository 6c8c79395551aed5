import { randomUUID } from 'node:crypto';
import {
  bookByInvitation,
  INVITED_AT_ONCE,
  invitationsOfPatient,
  invitationTemplates,
  openInvitation,
  planFunnel,
  planInvited,
  previewInvitations,
  sendInvitations,
  templateFinds,
  withdrawInvitation,
} from '@zaguan/contracts/invitations';
import { previewSchedule, type WireEdit } from '@zaguan/contracts/availability';
import { recallPlans, whyRecalled } from '@zaguan/contracts/recalls';
import { simulatedCarrier, simulatedReply } from '@zaguan/contracts/messages';
import { openRestricted } from '@zaguan/contracts/patients';
import { todaysWork } from '@zaguan/contracts/today';
import { undo } from '@zaguan/contracts/undo';
import { addDays, addMonths } from '@zaguan/core/time';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { TO_FOLLOW_UP, tokenOfInvitation } from '../fixtures/invitations.ts';
import { AFTER_FOLLOW_UP, aPatient, aVisit } from '../fixtures/recalls.ts';
import { until } from '../fixtures/until.ts';
import { makeWorld, passMinutes, passUntil, TEST_DAY, type World } from '../fixtures/world.ts';

const BORN = '1990-06-15';
const LONG_AGO = addMonths(TEST_DAY, -8);

describe('invitations', () => {
  let world: World;
  let desk: Client;
  let other: Client;
  const planId = randomUUID();
  const templateId = randomUUID();
  beforeAll(async () => {
    world = await makeWorld('invitations');
    desk = await signedIn(world.servers[0].url, 'coordinator');
    other = await signedIn(world.servers[0].url, 'front-desk');
    dataOf(await desk.call(recallPlans.save, { records: [{ id: planId, version: 0, doc: AFTER_FOLLOW_UP }] }));
    dataOf(await desk.call(invitationTemplates.save, { records: [{ id: templateId, version: 0, doc: TO_FOLLOW_UP }] }));
  });
  afterAll(() => world.close());

  const due = async (name: string, more: Parameters<typeof aPatient>[2] = {}) => {
    const id = await aPatient(world.sql, name, more);
    await aVisit(world.sql, id, LONG_AGO, 'fulfilled');
    return id;
  };
  const send = (patientIds: string[], about: object = { planId }, who = desk) =>
    who.call(sendInvitations, { templateId, planId: null, ...about, patientIds } as never);
  const preview = async (patientIds: string[], about: object = { planId }) =>
    dataOf(await desk.call(previewInvitations, { templateId, planId: null, ...about, patientIds } as never));
  const followed = async (patientId: string) =>
    dataOf(await desk.call(invitationsOfPatient, { patientId })).invitations;
  const stateOf = async (patientId: string) =>
    dataOf(await desk.call(whyRecalled, { patientId })).plans.find((each) => each.planId === planId);
  const share = async (from: string, ...others: string[]) => {
    await world.sql.query('delete from patient_contact where patient_id = any($1)', [others]);
    await world.sql.query(
      'insert into patient_contact (patient_id, contact_point_id) select unnest($2::uuid[]), contact_point_id from patient_contact where patient_id = $1',
      [from, others],
    );
  };
  const messagesOf = async (patientId: string) =>
    (
      await world.sql.query<{ status: string; dropped_code: string | null; held_code: string | null; send_at: Date }>(
        'select m.status, m.dropped_code, m.held_code, m.send_at from message m join invitation i on i.id = m.invitation_id where i.patient_id = $1 order by m.seq',
        [patientId],
      )
    ).rows;

  describe('templates', () => {
    const save = (doc: object) =>
      desk.call(invitationTemplates.save, { records: [{ id: randomUUID(), version: 0, doc }] } as never);

    it('are refused with a reason at the field, and nothing is saved', async () => {
      const words = (en: object, es: object = {}) => ({
        words: { en: { ...TO_FOLLOW_UP.words.en, ...en }, es: { ...TO_FOLLOW_UP.words.es, ...es } },
      });
      for (const [wrong, path, code] of [
        [words({}, { text: '' }), 'records.0.doc.words.es.text', 'needed'],
        [words({ text: 'Call us.' }), 'records.0.doc.words.en.text', 'no-link'],
        [words({ mail: 'Dear {first}, {link}' }), 'records.0.doc.words.en.mail', 'unknown-placeholder'],
        [{ typeIds: [] }, 'records.0.doc.typeIds', 'no-type'],
        [{ uses: 0 }, 'records.0.doc.uses', 'too-small'],
        [{ fromDate: '2026-12-02', untilDate: '2026-12-01' }, 'records.0.doc.untilDate', 'until-before-from'],
        [
          { hours: [{ weekdays: [1], fromMinute: 600, toMinute: 540 }] },
          'records.0.doc.hours.0.toMinute',
          'across-midnight',
        ],
      ] as const)
        expect(refusalOf(await save({ ...TO_FOLLOW_UP, ...wrong })).issues).toContainEqual({ path, code });
      await world.sql.query('update visit_type set active = false where id = $1', [TYPES.consult]);
      const refused = refusalOf(await save({ ...TO_FOLLOW_UP, typeIds: [TYPES.consult] }));
      expect(refused).toMatchObject({
        tag: 'SetupRefused',
        issues: [{ path: 'records.0.doc.typeIds', code: 'no-such-type' }],
      });
      await world.sql.query('update visit_type set active = true where id = $1', [TYPES.consult]);
      expect(dataOf(await desk.call(invitationTemplates.list, {})).records).toHaveLength(1);
    });

    it('say what they would find, by site, each by its own limits', async () => {
      const finds = async (limits: object) => {
        const {
          name: _,
          reason: __,
          words: ___,
          sortOrder: ____,
          uses: _____,
          livesDays: ______,
          ...rules
        } = TO_FOLLOW_UP;
        return dataOf(await desk.call(templateFinds, { rules: { ...rules, ...limits } } as never));
      };
      const all = await finds({});
      expect(all.starts).toBeGreaterThan(0);
      expect(all.starts).toBe(all.sites.reduce((sum, { starts }) => sum + starts, 0));
      const morning = await finds({
        hours: [{ weekdays: [1, 2, 3, 4, 5, 6, 7], fromMinute: 0, toMinute: 720 }],
      });
      const rest = await finds({
        hours: [{ weekdays: [1, 2, 3, 4, 5, 6, 7], fromMinute: 720, toMinute: 1440 }],
      });
      // Two that share the days share them out: neither sees a time of the other.
      expect(morning.starts + rest.starts).toBe(all.starts);
      expect((await finds({ siteIds: [SITES.canal] })).sites.map(({ siteId }) => siteId)).toEqual([SITES.canal]);
      expect(await finds({ fromDate: '2030-01-01' })).toEqual({
        ...{ starts: 0, sites: [], without: [TYPES.follow], gaveUp: false },
      });
    });
  });

  it('say before they are sent what each would get, and who gets none and why', async () => {
    const [well, dead, away, mute, booked] = [
      await due('Wellknown'),
      await due('Deadman'),
      await due('Awayman'),
      await due('Muteman', { phone: false }),
      await due('Bookedman'),
    ];
    await world.sql.query("update patient set status = 'deceased', deceased_on = $2 where id = $1", [dead, TEST_DAY]);
    await world.sql.query("update patient set status = 'inactive' where id = $1", [away]);
    await aVisit(world.sql, booked, addDays(TEST_DAY, 5), 'booked');
    const shown = await preview([well, dead, away, mute, booked]);
    expect(shown.people.map(({ refused }) => refused)).toEqual([
      ...[null, 'deceased', 'inactive'],
      // The plan's list says the same of who can't be reached.
      ...['not-due', 'booked-already'],
    ]);
    expect(shown.people[0].message).toMatchObject({ channel: 'sms', language: 'en', parts: 1, laterBy: null });
    expect(shown.people[0].message?.body).toMatch(/^Brindlewood.*: Robin, it is time .*\{link\} STOP to opt out\.$/);
    // Nothing was sent by looking.
    expect(await messagesOf(well)).toEqual([]);
    expect((await preview([mute], {})).people[0].refused).toBe('no-way-to-reach');
  });

  it('reach the phone with a link of their own, and are followed to it', async () => {
    const id = await due('Followed');
    const { sent, leftOut, undo: taken } = dataOf(await send([id]));
    expect(leftOut).toEqual([]);
    expect(sent).toHaveLength(1);
    expect(taken).not.toBeNull();
    const token = await tokenOfInvitation(world, sent[0].id);
    const { rows } = await world.sql.query("select 1 from link_token where kind = 'invitation' and subject_id = $1", [
      sent[0].id,
    ]);
    expect(rows).toHaveLength(1);
    await until(async () => (await followed(id))[0].state === 'delivered', 'the receipt');
    expect(await stateOf(id)).toMatchObject({ state: 'invited', by: 'being-invited' });
    const patient = new Client(world.servers[0].url);
    dataOf(await patient.call(openInvitation, { token, birthDate: BORN, language: 'en' }));
    expect((await followed(id))[0]).toMatchObject({ state: 'opened', isLive: true, template: 'Come back' });
  });

  it('are never two for one thing, whoever sends them at the same moment', async () => {
    const ids = [await due('Twice1'), await due('Twice2')];
    const answers = await Promise.all([send(ids), send(ids, { planId }, other), send(ids), send(ids)]);
    const sent = answers.flatMap((answer) => dataOf(answer).sent);
    expect(sent.map(({ patientId }) => patientId).sort()).toEqual([...ids].sort());
    expect(answers.flatMap((answer) => dataOf(answer).leftOut).map(({ refused }) => refused)).toEqual(
      Array(6).fill('invitation-live'),
    );
    // To another thing they may: a template of no plan.
    expect(dataOf(await send([ids[0]], {})).sent).toHaveLength(1);
  });

  it('go out one a day and three a week to a number that five share, and say which limit holds one back', async () => {
    const family: string[] = [];
    for (const name of ['Oldest', 'Older', 'Middle', 'Younger', 'Youngest']) family.push(await due(name));
    await share(family[0], ...family.slice(1));
    const shown = await preview(family);
    const dayOf = (at: string | undefined) => at?.slice(0, 10);
    expect(shown.people.map(({ message }) => [dayOf(message?.sendAt), message?.laterBy])).toEqual([
      [TEST_DAY, null],
      [addDays(TEST_DAY, 1), 'one-a-day'],
      [addDays(TEST_DAY, 2), 'one-a-day'],
      [addDays(TEST_DAY, 7), 'three-a-week'],
      [addDays(TEST_DAY, 8), 'one-a-day'],
    ]);
    // Whose turn comes after its last date gets no empty link.
    const brief = randomUUID();
    const until3 = { ...TO_FOLLOW_UP, name: 'Brief', untilDate: addDays(TEST_DAY, 3) };
    dataOf(await desk.call(invitationTemplates.save, { records: [{ id: brief, version: 0, doc: until3 }] }));
    expect((await preview(family, { templateId: brief, planId })).people.map(({ refused }) => refused)).toEqual([
      ...[null, null, null, 'too-late', 'too-late'],
    ]);
    dataOf(await send(family));
    await until(async () => (await messagesOf(family[0]))[0].status !== 'planned', 'the first one goes');
    expect((await messagesOf(family[1]))[0]).toMatchObject({ status: 'planned', held_code: 'one-a-day' });
    // What goes out by another plan counts: the database says so even where somebody plans past the rule.
    await world.sql.query(
      "update message m set send_at = now() - interval '1 day', next_attempt_at = now() - interval '1 day' from invitation i where i.id = m.invitation_id and i.patient_id = $1",
      [family[1]],
    );
    await until(async () => (await messagesOf(family[1]))[0].send_at.getTime() > Date.now() - 3600e3, 'it is held');
    expect((await messagesOf(family[1]))[0]).toMatchObject({ status: 'planned', held_code: 'one-a-day' });
  });

  it('wait for the morning at night', async () => {
    const id = await due('Sleeper');
    await passUntil(world, 23 * 60);
    const { people } = await preview([id]);
    expect(people[0].message?.laterBy).toBe('quiet-hours');
    dataOf(await send([id]));
    expect((await messagesOf(id))[0]).toMatchObject({ status: 'planned', held_code: 'quiet-hours' });
    await passUntil(world, 620);
    await until(async () => (await messagesOf(id))[0].status === 'delivered', 'sent in the morning');
  });

  it('are not sent to who dies, says stop or books by phone between planning and sending', async () => {
    await passUntil(world, 23 * 60);
    const [dies, stops, books, turns] = [await due('Dies'), await due('Stops'), await due('Books'), await due('Turns')];
    await world.sql.query('update patient set birth_date = $2 where id = $1', [turns, '2008-12-01']);
    dataOf(await send([dies, stops, books, turns]));
    await world.sql.query("update patient set status = 'deceased', deceased_on = $2 where id = $1", [dies, TEST_DAY]);
    await world.sql.query(
      "insert into contact_ledger (id, contact_point_id, event, purpose, how, at) select gen_random_uuid(), contact_point_id, 'revoked', 'recalls', 'test', now() from patient_contact where patient_id = $1",
      [stops],
    );
    await aVisit(world.sql, books, addDays(TEST_DAY, 9), 'booked');
    await passUntil(world, 620);
    for (const [id, code] of [
      [dies, 'deceased'],
      [stops, 'opted-out'],
      [books, 'booked-already'],
    ] as const) {
      await until(async () => (await messagesOf(id))[0].status !== 'planned', code);
      expect((await messagesOf(id))[0]).toMatchObject({ status: 'dropped', dropped_code: code });
      // Nobody holds what they were never told of.
      expect((await followed(id))[0]).toMatchObject({ state: 'withdrawn', isLive: false });
    }
    // Whoever comes of age meanwhile is the same patient with the same number.
    await until(async () => (await messagesOf(turns))[0].status === 'delivered', 'sent');
  });

  it('are withdrawn, and brought back as far as nothing else was sent to the same thing', async () => {
    await passUntil(world, 23 * 60);
    const id = await due('Withdrawn');
    dataOf(await send([id]));
    const [{ id: invitationId, version }] = await followed(id);
    const taken = dataOf(await desk.call(withdrawInvitation, { id: invitationId, version }));
    expect((await messagesOf(id))[0].status).toBe('withdrawn');
    expect(await stateOf(id)).toMatchObject({ state: 'due' });
    expect(refusalOf(await desk.call(withdrawInvitation, { id: invitationId, version })).tag).toBe('ChangedMeanwhile');
    dataOf(await desk.call(undo, taken.undo));
    expect(await stateOf(id)).toMatchObject({ state: 'invited' });
    const [again] = await followed(id);
    const last = dataOf(await desk.call(withdrawInvitation, { id: invitationId, version: again.version }));
    dataOf(await send([id]));
    expect(refusalOf(await desk.call(undo, last.undo)).tag).toBe('ChangedMeanwhile');
    await passUntil(world, 620);
    await until(async () => (await messagesOf(id)).some(({ status }) => status === 'delivered'), 'the second one');
    expect((await messagesOf(id)).map(({ status }) => status)).toEqual(['withdrawn', 'delivered']);
  });

  it('are taken back all at once by undo, those apart that were used', async () => {
    const [used, unused] = [await due('Used'), await due('Unused')];
    const { sent, undo: taken } = dataOf(await send([used, unused]));
    const token = await tokenOfInvitation(world, sent.find(({ patientId }) => patientId === used)?.id ?? '');
    const patient = new Client(world.servers[0].url);
    const first = await firstTime(patient, token);
    dataOf(await patient.call(bookByInvitation, { token, birthDate: BORN, language: 'en', ...first }));
    dataOf(await desk.call(undo, taken ?? { id: '' }));
    expect((await followed(used))[0]).toMatchObject({ state: 'booked' });
    expect((await followed(unused))[0]).toMatchObject({ state: 'withdrawn' });
  });

  it('are not sent where nothing would be found: nobody gets an empty link', async () => {
    const empty = randomUUID();
    dataOf(
      await desk.call(invitationTemplates.save, {
        records: [{ id: empty, version: 0, doc: { ...TO_FOLLOW_UP, name: 'Empty', fromDate: '2030-01-01' } }],
      }),
    );
    const id = await due('Nowhere');
    expect(refusalOf(await send([id], { templateId: empty, planId })).tag).toBe('FindsNothing');
    expect(await messagesOf(id)).toEqual([]);
  });

  it('run out, and can be sent anew then', async () => {
    const short = randomUUID();
    dataOf(
      await desk.call(invitationTemplates.save, {
        records: [{ id: short, version: 0, doc: { ...TO_FOLLOW_UP, name: 'Short', livesDays: 1 } }],
      }),
    );
    const id = await due('Expired');
    const { sent } = dataOf(await send([id], { templateId: short, planId }));
    await tokenOfInvitation(world, sent[0].id);
    expect(await stateOf(id)).toMatchObject({ state: 'invited' });
    await passMinutes(world, 3 * 1440);
    expect((await followed(id))[0]).toMatchObject({ state: 'expired', isLive: false });
    await until(async () => (await stateOf(id))?.state === 'due', 'due again');
    expect(dataOf(await send([id])).sent).toHaveLength(1);
    // One that is used by others can't be archived.
    const archive = (ids: string[]) => desk.call(invitationTemplates.archive, { ids, active: false });
    expect(refusalOf(await archive([templateId])).issues).toEqual([{ path: 'active', code: 'template-in-use' }]);
    dataOf(await archive([short]));
    expect(refusalOf(await send([id], { templateId: short, planId })).tag).toBe('NotFound');
  });

  it('are counted before a change of hours that leaves them nothing to find', async () => {
    const mesa = randomUUID();
    dataOf(
      await desk.call(invitationTemplates.save, {
        records: [{ id: mesa, version: 0, doc: { ...TO_FOLLOW_UP, name: 'At Mesa', siteIds: [SITES.mesa] } }],
      }),
    );
    const ids = [await due('Mesa1'), await due('Mesa2')];
    expect(dataOf(await send(ids, { templateId: mesa, planId })).sent).toHaveLength(2);
    const close = (siteId: string, days: number): WireEdit => ({
      ...{ do: 'close-site', siteId, reason: 'Water', startMinute: 0, endMinute: 1440 },
      ...{ startDate: addDays(TEST_DAY, -1), endDate: addDays(TEST_DAY, days) },
    });
    const emptied = async (edit: WireEdit) =>
      dataOf(await desk.call(previewSchedule, { edits: [edit] })).impact?.invitationsEmptied;
    expect(await emptied(close(SITES.mesa, 30))).toBe(2);
    expect(await emptied(close(SITES.mesa, 3))).toBe(0);
    expect(await emptied(close(SITES.canal, 30))).toBe(0);
  });

  it('count in the plan’s funnel, each number with its people', async () => {
    const since = addDays(TEST_DAY, -1);
    const funnel = dataOf(await desk.call(planFunnel, { planId, since }));
    const { invited, delivered, opened, looked, booked, came } = funnel.steps;
    expect([invited, delivered, opened, looked, booked, came]).toEqual(
      [invited, delivered, opened, looked, booked, came].toSorted((a, b) => (b ?? 0) - (a ?? 0)),
    );
    expect(booked).toBe(1);
    // Receipts still come in meanwhile.
    for (const step of ['invited', 'delivered', 'opened', 'looked', 'booked', 'came'] as const)
      await until(async () => {
        const { invitations } = dataOf(await desk.call(planInvited, { planId, since, step }));
        const now = dataOf(await desk.call(planFunnel, { planId, since }));
        return invitations.length === (now.steps[step] ?? 0);
      }, `${step} is as many as are listed`);
    const expired = dataOf(await desk.call(planInvited, { planId, since, step: 'expired' })).invitations;
    expect(expired).toHaveLength(funnel.expired);
    expect(funnel.due).toBeGreaterThan(0);
    expect(dataOf(await desk.call(planFunnel, { planId, since: '2030-01-01' })).steps.invited).toBe(0);
  });

  it('are lost by no carrier that is down for an hour, and sent once', async () => {
    const id = await due('Patience');
    dataOf(await desk.call(simulatedCarrier, { channel: 'sms', mode: 'down' }));
    const { sent } = dataOf(await send([id]));
    await until(
      async () =>
        (
          await world.sql.query<{ attempts: number }>('select attempts from message where invitation_id = $1', [
            sent[0].id,
          ])
        ).rows[0].attempts > 0,
      'it was tried',
    );
    dataOf(await desk.call(simulatedCarrier, { channel: 'sms', mode: 'works' }));
    await passMinutes(world, 60);
    await tokenOfInvitation(world, sent[0].id);
    const { rows } = await world.sql.query(
      'select 1 from simulated.sms s join message m on m.id::text = s.id where m.invitation_id = $1',
      [sent[0].id],
    );
    expect(rows).toHaveLength(1);
  });

  it('are not taken for the visit before them: a bare yes is read by the desk', async () => {
    const id = await due('Answers');
    const { sent } = dataOf(await send([id]));
    const token = await tokenOfInvitation(world, sent[0].id);
    const patient = new Client(world.servers[0].url);
    dataOf(
      await patient.call(bookByInvitation, {
        ...{ token, birthDate: BORN, language: 'en' },
        ...(await firstTime(patient, token)),
      }),
    );
    const number = (
      await world.sql.query<{ value: string }>(
        'select cp.value from contact_point cp join patient_contact k on k.contact_point_id = cp.id where k.patient_id = $1',
        [id],
      )
    ).rows[0].value;
    const confirmed = () =>
      world.sql
        .query(
          "select 1 from message m join appointment a on a.id = m.appointment_id where a.patient_id = $1 and m.kind = 'confirmation' and m.status = 'delivered'",
          [id],
        )
        .then(({ rows }) => rows.length);
    await until(confirmed, 'the confirmation');
    const answer = async () => dataOf(await desk.call(simulatedReply, { number, body: 'Y' })).meaning;
    expect(await answer()).toBe('confirm');
    const skin = randomUUID();
    const doc = { ...TO_FOLLOW_UP, name: 'Skin', typeIds: [TYPES.skin] };
    dataOf(await desk.call(invitationTemplates.save, { records: [{ id: skin, version: 0, doc }] }));
    // The day's limit is the number's: tomorrow.
    dataOf(await send([id], { templateId: skin, planId: null }));
    await passMinutes(world, 1440);
    await until(async () => (await messagesOf(id)).filter(({ status }) => status === 'delivered').length === 2, 'both');
    expect(await answer()).toBe('other');
  });

  it('stand on Today where no carrier takes them, by name, and only by initials for who may not see who it is', async () => {
    const [open, hidden] = [await due('Noreach'), await due('Secretive', { restricted: true })];
    dataOf(await desk.call(simulatedCarrier, { channel: 'sms', mode: 'refuses' }));
    // The front desk may, for an hour and with a reason.
    dataOf(await other.call(openRestricted, { id: hidden, reason: 'Invites them' } as never));
    expect(dataOf(await send([open, hidden], { planId }, other)).sent).toHaveLength(2);
    const rows = async (who: Client) =>
      dataOf(await who.call(todaysWork, {})).work.flatMap((row) =>
        row.kind === 'failed' && row.invited && [open, hidden].includes(row.invited.patientId) ? [row] : [],
      );
    await until(async () => (await rows(desk)).length === 2, 'both failed');
    dataOf(await desk.call(simulatedCarrier, { channel: 'sms', mode: 'works' }));
    const seen = await rows(await signedIn(world.servers[0].url, 'provider'));
    const rowOf = (id: string) => seen.find((row) => row.invited?.patientId === id);
    expect(rowOf(open)).toMatchObject({ message: 'invitation', invited: { name: 'Robin Noreach' } });
    expect(rowOf(hidden)).toMatchObject({ contact: '' });
    expect(rowOf(hidden)?.invited?.name).not.toContain('Secretive');
    expect((await followed(open))[0].state).toBe('not-reached');
  });

  it('are sent by who may, to who may be seen, and to so many at once', async () => {
    const id = await due('Secret', { restricted: true });
    const [own] = dataOf(await send([id], { planId }, other)).leftOut;
    expect(own).toMatchObject({ refused: 'restricted' });
    expect(dataOf(await send([randomUUID()])).leftOut[0].refused).toBe('unknown');
    const many = Array.from({ length: INVITED_AT_ONCE + 1 }, () => randomUUID());
    expect(refusalOf(await send(many)).tag).toBe('InvalidInput');
    expect(refusalOf(await send([id, randomUUID()], { requestId: randomUUID() })).issues).toEqual([
      { path: 'patientIds', code: 'one-thing-only' },
    ]);
    expect(refusalOf(await send([id], { planId: randomUUID() })).tag).toBe('NotFound');
    // What is booked by it must count for what it is to.
    const skin = randomUUID();
    const doc = { ...TO_FOLLOW_UP, name: 'Other', typeIds: [TYPES.skin] };
    dataOf(await desk.call(invitationTemplates.save, { records: [{ id: skin, version: 0, doc }] }));
    expect(refusalOf(await send([id], { templateId: skin, planId })).issues).toEqual([
      { path: 'templateId', code: 'other-type' },
    ]);
    const provider = await signedIn(world.servers[0].url, 'provider');
    expect(refusalOf(await send([id], { planId }, provider)).tag).toBe('NotAllowed');
  });

  async function firstTime(patient: Client, token: string) {
    const { invitationDays, invitationTimes } = await import('@zaguan/contracts/invitations');
    const who = { token, birthDate: BORN, language: 'en' as const };
    const narrowed = { visitTypeId: TYPES.follow, siteId: null, providerId: null, part: null };
    const { days } = dataOf(await patient.call(invitationDays, { ...who, ...narrowed }));
    const { lanes } = dataOf(await patient.call(invitationTimes, { ...who, ...narrowed, date: days[0].date }));
    const [{ siteId, providerId, starts }] = lanes;
    expect(Object.values(PROVIDERS)).toContain(providerId);
    return { visitTypeId: TYPES.follow, siteId, providerId, start: starts[0] };
  }
});
