import { randomUUID } from 'node:crypto';
import { cancelVisit, setStatus } from '@zaguan/contracts/booking';
import {
  decideRecall,
  previewPlan,
  putOnRegister,
  recallCounts,
  recallList,
  recallPlans,
  registerPeople,
  registers,
  takeBackChoice,
  takeOffRegister,
  whyRecalled,
} from '@zaguan/contracts/recalls';
import type { OutputOf } from '@zaguan/contracts';
import { undo } from '@zaguan/contracts/undo';
import type { RecallState } from '@zaguan/core/recalls';
import { addDays, addMonths } from '@zaguan/core/time';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { AFTER_FOLLOW_UP, aPatient, aVisit } from '../fixtures/recalls.ts';
import { until } from '../fixtures/until.ts';
import { makeWorld, passMinutes, TEST_DAY, type World } from '../fixtures/world.ts';

const NOBODY = '00000000-0000-4000-8000-000000000000';
/** Due today, and due tomorrow. */
const [DUE, NOT_YET] = [addMonths(TEST_DAY, -6), addDays(addMonths(TEST_DAY, -6), 1)];

describe('recall plans', () => {
  let world: World;
  let desk: Client;
  let clerk: Client;
  const planId = randomUUID();
  beforeAll(async () => {
    world = await makeWorld('recalls');
    desk = await signedIn(world.servers[0].url, 'coordinator');
    clerk = await signedIn(world.servers[0].url, 'front-desk');
    dataOf(await desk.call(recallPlans.save, { records: [{ id: planId, version: 0, doc: AFTER_FOLLOW_UP }] }));
    // While everybody is looked at for the new plan, the list says how many are still to come.
    const left = async () => dataOf(await desk.call(recallCounts, {})).plans.find(({ id }) => id === planId)?.toLookAt;
    await until(async () => (await left()) === 0, 'everybody looked at');
  });
  afterAll(() => world.close());

  const pagesOf = async (state: RecallState, who = desk) => {
    const pages: OutputOf<typeof recallList>[] = [];
    do pages.push(dataOf(await who.call(recallList, { planId, state, after: pages.at(-1)?.next ?? null })));
    while (pages.at(-1)?.next);
    return pages;
  };
  const listed = async (state: RecallState, who = desk) => (await pagesOf(state, who)).flatMap(({ people }) => people);
  const stateOf = async (patientId: string) =>
    dataOf(await desk.call(whyRecalled, { patientId })).plans.find((each) => each.planId === planId);
  const isListed = async (patientId: string, state: RecallState) =>
    (await listed(state)).some((each) => each.patientId === patientId);

  it('list who is due, with the visit that was counted from, as soon as something happens', async () => {
    const due = await aPatient(world.sql, 'Duetoday');
    await aVisit(world.sql, due, DUE, 'fulfilled');
    const later = await aPatient(world.sql, 'Duetomorrow');
    await aVisit(world.sql, later, NOT_YET, 'fulfilled');
    const person = (await listed('due')).find(({ patientId }) => patientId === due);
    expect(person).toMatchObject({ dueOn: TEST_DAY, lastOn: DUE, by: null, overdue: false });
    expect(await isListed(later, 'not-due')).toBe(true);
    const visit = await aVisit(world.sql, due, addDays(TEST_DAY, 9), 'booked');
    expect(await stateOf(due)).toMatchObject({ state: 'booked', by: 'coming-visit' });
    expect(await isListed(due, 'booked')).toBe(true);
    dataOf(
      await desk.call(cancelVisit, { id: visit as never, version: 1, reason: 'patient-asked', note: '' } as never),
    );
    expect(await isListed(due, 'due')).toBe(true);
    // A visit that is completed today starts it over.
    const today = await aVisit(world.sql, due, TEST_DAY, 'booked');
    await world.sql.query("update appointment set status = 'checked-in' where id = $1", [today]);
    dataOf(await desk.call(setStatus, { id: today as never, to: 'fulfilled', version: 1 }));
    expect(await stateOf(due)).toMatchObject({ state: 'not-due', lastOn: TEST_DAY });
  });

  it('are kept by themselves, without anybody looking: midnight lists who is due then', async () => {
    const id = await aPatient(world.sql, 'Midnight');
    await aVisit(world.sql, id, NOT_YET, 'fulfilled');
    const kept = async () =>
      (await world.sql.query<{ state: string }>('select state from recall_state where patient_id = $1', [id])).rows[0]
        ?.state;
    await until(async () => (await kept()) === 'not-due', 'kept');
    await passMinutes(world, 14 * 60);
    await until(async () => (await kept()) === 'due', 'listed after midnight');
    await passMinutes(world, -14 * 60);
  });

  it('count what people are to them, and each number has its people', async () => {
    const counted = dataOf(await desk.call(recallCounts, {})).plans.find(({ id }) => id === planId);
    for (const state of ['due', 'booked', 'not-due'] as const)
      expect(counted?.counts[state] ?? 0).toBe((await listed(state)).length);
  });

  it('leave alone who asked for a later date, declined, or had it done elsewhere; each can be taken back', async () => {
    const id = await aPatient(world.sql, 'Choosy');
    await aVisit(world.sql, id, DUE, 'fulfilled');
    const say = (kind: 'later' | 'declined' | 'done-elsewhere', date: string | null, choiceId = randomUUID()) =>
      clerk.call(decideRecall, { id: choiceId, planId, patientId: id, kind, date, note: 'on the phone' });
    for (const [kind, date, code] of [
      ['later', TEST_DAY, 'in-the-past'],
      ['later', null, 'needed'],
      ['declined', TEST_DAY, 'no-date-here'],
      ['done-elsewhere', addDays(TEST_DAY, 1), 'in-the-future'],
    ] as const)
      expect(refusalOf(await say(kind, date)).issues).toEqual([{ path: 'date', code }]);
    const until = addMonths(TEST_DAY, 1);
    const put = dataOf(await say('later', until));
    expect(await stateOf(id)).toMatchObject({ state: 'deferred', by: 'later' });
    dataOf(await clerk.call(undo, put.undo));
    expect(await stateOf(id)).toMatchObject({ state: 'due', choices: [] });
    const choiceId = randomUUID();
    dataOf(await say('declined', null, choiceId));
    // The same once more is not noted twice.
    expect(refusalOf(await say('declined', null, choiceId)).tag).toBe('ChangedMeanwhile');
    expect(await stateOf(id)).toMatchObject({
      state: 'declined',
      choices: [{ kind: 'declined', note: 'on the phone' }],
    });
    const back = dataOf(await clerk.call(takeBackChoice, { id: choiceId, version: 1 }));
    expect(refusalOf(await clerk.call(takeBackChoice, { id: choiceId, version: 1 })).tag).toBe('ChangedMeanwhile');
    dataOf(await clerk.call(undo, back.undo));
    expect(await stateOf(id)).toMatchObject({ state: 'declined' });
    dataOf(await clerk.call(takeBackChoice, { id: choiceId, version: 3 }));
    dataOf(await say('done-elsewhere', addDays(TEST_DAY, -10)));
    expect(await stateOf(id)).toMatchObject({ state: 'not-due', dueOn: addMonths(addDays(TEST_DAY, -10), 6) });
  });

  it('leave alone who can’t be reached or has said stop to recalls, whoever shares the number', async () => {
    const alone = await aPatient(world.sql, 'Nophone', { phone: false });
    await aVisit(world.sql, alone, DUE, 'fulfilled');
    expect(await stateOf(alone)).toMatchObject({ state: 'left-out', by: 'no-way-to-reach' });
    const [one, other] = [await aPatient(world.sql, 'Sharer'), await aPatient(world.sql, 'Sharer', { phone: false })];
    for (const id of [one, other]) await aVisit(world.sql, id, DUE, 'fulfilled');
    await world.sql.query(
      'insert into patient_contact (patient_id, contact_point_id) select $1, contact_point_id from patient_contact where patient_id = $2',
      [other, one],
    );
    expect(await stateOf(other)).toMatchObject({ state: 'due' });
    await world.sql.query(
      `insert into contact_ledger (id, contact_point_id, event, purpose, how, at) select gen_random_uuid(), contact_point_id, 'revoked', 'recalls', 'link', now() from patient_contact where patient_id = $1`,
      [one],
    );
    for (const id of [one, other])
      expect(await stateOf(id)).toMatchObject({ state: 'left-out', by: 'no-way-to-reach' });
  });

  it('explain for anyone why they are not listed, by every rule', async () => {
    const id = await aPatient(world.sql, 'Neverhere');
    const why = await stateOf(id);
    expect(why).toMatchObject({ state: 'not-asked-for', by: 'nothing-to-count-from', dueOn: null });
    expect(why?.answers.map(({ code, passed }) => [code, passed])).toContainEqual(['deceased', true]);
    expect(refusalOf(await desk.call(whyRecalled, { patientId: NOBODY })).tag).toBe('NotFound');
  });

  it('name nobody whose record is restricted to who may not open it', async () => {
    const id = await aPatient(world.sql, 'Hiddenname', { restricted: true });
    await aVisit(world.sql, id, DUE, 'fulfilled');
    const find = async (who: Client) => (await listed('due', who)).find(({ patientId }) => patientId === id);
    expect((await find(desk))?.name).toContain('Hiddenname');
    const hidden = await find(clerk);
    expect(hidden?.name).not.toContain('Hiddenname');
    expect(hidden?.birthDate).toBeNull();
    expect(refusalOf(await clerk.call(whyRecalled, { patientId: id })).tag).toBe('NotAllowed');
    expect(
      refusalOf(
        await clerk.call(decideRecall, {
          id: randomUUID(),
          planId,
          patientId: id,
          kind: 'declined',
          date: null,
          note: '',
        }),
      ).tag,
    ).toBe('NotAllowed');
  });

  it('say before they are saved who joins and who leaves, and refuse what names nothing', async () => {
    const id = await aPatient(world.sql, 'Joiner');
    await aVisit(world.sql, id, addMonths(TEST_DAY, -4), 'fulfilled');
    const doc = { ...AFTER_FOLLOW_UP, when: { ...AFTER_FOLLOW_UP.when, every: { n: 3, unit: 'months' } } } as never;
    const shorter = dataOf(await desk.call(previewPlan, { id: planId, doc }));
    expect(shorter.whole).toBe(true);
    expect(shorter.joins.some.map(({ patientId }) => patientId).concat(shorter.joins.count > 10 ? [id] : [])).toContain(
      id,
    );
    expect(shorter.leaves.count).toBe(0);
    const before = (await listed('due')).length;
    const kids = { ...AFTER_FOLLOW_UP, who: { ...AFTER_FOLLOW_UP.who, ageTo: 5 } };
    const younger = dataOf(await desk.call(previewPlan, { id: planId, doc: kids }));
    expect(younger.leaves.count).toBe(before - (younger.counts.due ?? 0));
    expect((await listed('due')).length).toBe(before);
    const unknown = { ...AFTER_FOLLOW_UP, when: { ...AFTER_FOLLOW_UP.when, typeIds: [NOBODY] } } as never;
    expect(refusalOf(await desk.call(previewPlan, { id: planId, doc: unknown })).issues).toEqual([
      { path: 'doc.when.typeIds', code: 'no-such-type' },
    ]);
    expect(
      refusalOf(await desk.call(recallPlans.save, { records: [{ id: planId, version: 1, doc: unknown }] })).tag,
    ).toBe('SetupRefused');
    const backwards = { ...AFTER_FOLLOW_UP, who: { ...AFTER_FOLLOW_UP.who, ageFrom: 10, ageTo: 5 } };
    expect(refusalOf(await desk.call(previewPlan, { id: planId, doc: backwards })).tag).toBe('InvalidInput');
    const long = { ...AFTER_FOLLOW_UP, when: { ...AFTER_FOLLOW_UP.when, every: { n: 31, unit: 'years' } } } as never;
    expect(refusalOf(await desk.call(previewPlan, { id: planId, doc: long })).tag).toBe('InvalidInput');
    // A plan that is off lists nobody: all who are due by it leave.
    const off = dataOf(await desk.call(previewPlan, { id: planId, doc: { ...AFTER_FOLLOW_UP, isOn: false } }));
    expect(off.joins.count).toBe(0);
    expect(off.leaves.count).toBe(before);
    expect(refusalOf(await clerk.call(previewPlan, { id: planId, doc: AFTER_FOLLOW_UP })).tag).toBe('NotAllowed');
  });

  it('look at everybody again when they change, and list nobody when they are off or archived', async () => {
    const id = await aPatient(world.sql, 'Thirty', { birthDate: '1996-12-01' });
    await aVisit(world.sql, id, DUE, 'fulfilled');
    expect(await isListed(id, 'due')).toBe(true);
    const save = async (doc: typeof AFTER_FOLLOW_UP, version: number) =>
      dataOf(await desk.call(recallPlans.save, { records: [{ id: planId, version, doc }] }));
    const saved = await save({ ...AFTER_FOLLOW_UP, who: { ...AFTER_FOLLOW_UP.who, ageTo: 29 } }, 1);
    await until(async () => !(await isListed(id, 'due')), 'too old for it now');
    dataOf(await desk.call(undo, saved.undo));
    await until(async () => isListed(id, 'due'), 'listed again');
    const archived = dataOf(await desk.call(recallPlans.archive, { ids: [planId], active: false }));
    expect(refusalOf(await desk.call(recallList, { planId, state: 'due' })).tag).toBe('NotFound');
    dataOf(await desk.call(undo, archived.undo));
    await until(async () => isListed(id, 'due'), 'listed after it was brought back');
  });

  it('go by pages that miss nobody and show nobody twice', async () => {
    const ids: string[] = [];
    for (let i = 0; i < 60; i++) {
      const id = await aPatient(world.sql, `Page${i}`);
      await aVisit(world.sql, id, addDays(DUE, -(i % 7)), 'fulfilled');
      ids.push(id);
    }
    const pages = await pagesOf('due');
    expect(pages.length).toBeGreaterThan(1);
    const seen = pages.flatMap(({ people }) => people.map(({ patientId }) => patientId));
    const dates = pages.flatMap(({ people }) => people.map(({ dueOn }) => dueOn ?? ''));
    expect(dates).toEqual(dates.toSorted());
    expect(new Set(seen).size).toBe(seen.length);
    expect(seen).toEqual(expect.arrayContaining(ids));
  });

  it('go by registers, kept by hand with their history or by a rule', async () => {
    const [byHand, byRule] = [randomUUID(), randomUUID()];
    const blank = { note: '', rule: null, sortOrder: 1 };
    const kids = { ...AFTER_FOLLOW_UP.who, ageTo: 11, registerIds: null };
    dataOf(
      await desk.call(registers.save, {
        records: [
          { id: byHand, version: 0, doc: { ...blank, name: 'Venom' } },
          { id: byRule, version: 0, doc: { ...blank, name: 'Children', rule: kids } },
        ],
      }),
    );
    const child = await aPatient(world.sql, 'Child', { birthDate: '2018-05-05' });
    const people = async (registerId: string) => dataOf(await desk.call(registerPeople, { registerId })).people;
    await until(async () => (await people(byRule)).some(({ patientId }) => patientId === child), 'on it by the rule');
    expect(refusalOf(await desk.call(putOnRegister, { registerId: byRule, patientId: child })).tag).toBe('KeptByRule');
    const put = dataOf(await desk.call(putOnRegister, { registerId: byHand, patientId: child }));
    expect(refusalOf(await desk.call(putOnRegister, { registerId: byHand, patientId: child })).tag).toBe('OnRegister');
    const [member] = await people(byHand);
    expect(member).toMatchObject({ patientId: child, from: TEST_DAY, until: null, how: 'hand' });
    const off = dataOf(await desk.call(takeOffRegister, { id: member.memberId }));
    expect((await people(byHand))[0].until).toBe(TEST_DAY);
    dataOf(await desk.call(undo, off.undo));
    expect((await people(byHand))[0].until).toBeNull();
    dataOf(await desk.call(undo, put.undo));
    expect(await people(byHand)).toEqual([]);
    // A plan that goes by one keeps it from being archived.
    const plan = { ...AFTER_FOLLOW_UP, name: 'By register', isOn: false, sortOrder: 20 };
    const doc = { ...plan, who: { ...plan.who, registerIds: [byHand] } };
    dataOf(await desk.call(recallPlans.save, { records: [{ id: randomUUID(), version: 0, doc }] }));
    expect(refusalOf(await desk.call(registers.archive, { ids: [byHand], active: false })).issues).toEqual([
      { path: 'active', code: 'register-in-use' },
    ]);
    // Who has died is on no register any more.
    await world.sql.query("update patient set status = 'deceased', deceased_on = $2 where id = $1", [child, TEST_DAY]);
    await until(
      async () => !(await people(byRule)).some(({ patientId, until }) => patientId === child && until === null),
      'off the register',
    );
  });

  it('go on with who is on a register when it gets a rule, and when it loses it', async () => {
    const registerId = randomUUID();
    const save = async (rule: object | null, version: number) =>
      dataOf(
        await desk.call(registers.save, {
          records: [{ id: registerId, version, doc: { name: 'Changing', note: '', rule, sortOrder: 5 } as never }],
        }),
      );
    const [child, adult] = [
      await aPatient(world.sql, 'Stays', { birthDate: '2018-05-05' }),
      await aPatient(world.sql, 'Leaves'),
    ];
    await save(null, 0);
    for (const patientId of [child, adult]) dataOf(await desk.call(putOnRegister, { registerId, patientId }));
    const on = async () => {
      const { people } = dataOf(await desk.call(registerPeople, { registerId }));
      return people.filter(({ until }) => until === null);
    };
    // The rule takes off whom it doesn't ask for, whoever put them on it; who belongs is on it once.
    await save({ ...AFTER_FOLLOW_UP.who, ageTo: 11, registerIds: null }, 1);
    await until(async () => !(await on()).some(({ patientId }) => patientId === adult), 'taken off by the rule');
    const stays = (await on()).filter(({ patientId }) => patientId === child);
    expect(stays).toHaveLength(1);
    expect(refusalOf(await desk.call(takeOffRegister, { id: stays[0].memberId })).tag).toBe('KeptByRule');
    // Kept by hand again, whoever the rule put on it is taken off by hand.
    await until(async () => (await on()).some(({ how }) => how === 'rule'), 'put on by the rule');
    await save(null, 2);
    const byRule = (await on()).find(({ how }) => how === 'rule');
    expect(byRule).toBeDefined();
    dataOf(await desk.call(takeOffRegister, { id: byRule?.memberId ?? '' }));
    expect(refusalOf(await desk.call(takeOffRegister, { id: byRule?.memberId ?? '' })).tag).toBe('ChangedMeanwhile');
  });
});
