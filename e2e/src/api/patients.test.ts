import { randomUUID } from 'node:crypto';
import { addRelationship, endRelationship, patientRecord, saveFields } from '@zaguan/contracts/patients';
import * as setup from '@zaguan/contracts/setup';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('a patient’s page', () => {
  let world: World;
  let base: string;
  let id: string;
  beforeAll(async () => {
    world = await makeWorld('patients');
    base = world.servers[0].url;
    id = (
      await world.sql.query<{ patient_id: string }>(
        'select patient_id from appointment where patient_id is not null group by 1 order by count(*) desc limit 1',
      )
    ).rows[0].patient_id;
  });
  afterAll(() => world.close());

  it('shows details and visits, and adds each look to the trail', async () => {
    const desk = await signedIn(base, 'coordinator');
    const first = dataOf(await desk.call(patientRecord, { id })).record;
    expect(first.visits.length).toBeGreaterThan(1);
    expect(first.contacts[0].value).toMatch(/^\+1\d{10}$/);
    const second = dataOf(await desk.call(patientRecord, { id })).record;
    expect(second.trail[0]).toMatchObject({
      kind: 'read',
      command: 'patients.record',
      actor: 'staff',
      by: 'Ines Kessler',
    });
    expect(second.trail.length).toBe(first.trail.length + 1);
  });

  it('opens a restricted record for manager and coordinator only, and says nothing of one that is not there', async () => {
    await world.sql.query('update patient set restricted = true where id = $1', [id]);
    expect(refusalOf(await (await signedIn(base, 'front-desk')).call(patientRecord, { id })).tag).toBe('NotAllowed');
    expect((await (await signedIn(base, 'manager')).call(patientRecord, { id })).status).toBe(200);
    expect(
      refusalOf(
        await (await signedIn(base, 'front-desk')).call(patientRecord, { id: '00000000-0000-4000-8000-000000000000' }),
      ).tag,
    ).toBe('NotFound');
  });

  describe('the clinic’s own fields and who may act', () => {
    let manager: Client;
    let desk: Client;
    const record = async (who = desk) => dataOf(await who.call(patientRecord, { id })).record;
    const fieldIds: Record<string, string> = {};
    beforeAll(async () => {
      await world.sql.query('update patient set restricted = false where id = $1', [id]);
      [manager, desk] = [await signedIn(base, 'manager'), await signedIn(base, 'coordinator')];
      const field = (labelEn: string, kind: string, more: object = {}) => {
        fieldIds[labelEn] = randomUUID();
        const doc = { of: 'patient', labelEn, labelEs: `${labelEn} (es)`, kind, required: false, choices: [] };
        return { id: fieldIds[labelEn], version: 0, doc: { ...doc, visitTypeIds: null, sortOrder: 50, ...more } };
      };
      const records = [
        field('Interpreter', 'yes-no'),
        field('Transport', 'choice', {
          choices: [
            { en: 'Bus', es: 'Autobús' },
            { en: 'Car', es: 'Coche' },
          ],
        }),
        field('Employer', 'text'),
        field('Since', 'date'),
      ];
      dataOf(await manager.call(setup.fields.save, { records: records as never }));
    });
    const values = async () => {
      const { fields } = await record();
      return Object.fromEntries(
        Object.entries(fieldIds).map(([label, fieldId]) => [label, fields.find((row) => row.id === fieldId)?.value]),
      );
    };
    const answers = (given: Record<string, string | number | boolean>) =>
      Object.fromEntries(Object.entries(given).map(([label, value]) => [fieldIds[label], value]));

    it('keeps answers of each kind, undoes them, and lets nobody overwrite what another one saved', async () => {
      const { version } = await record();
      const given = { Interpreter: true, Transport: 'Bus', Employer: 'Brindle Mills', Since: '2020-02-29' };
      const saved = dataOf(await desk.call(saveFields, { id, version, answers: answers(given) }));
      expect(await values()).toEqual(given);
      const late = refusalOf(await manager.call(saveFields, { id, version, answers: answers({ Employer: 'Other' }) }));
      expect(late).toMatchObject({ tag: 'ChangedMeanwhile', facts: { version: version + 1 } });
      expect(await values()).toEqual(given);
      dataOf(await desk.call(undo, { id: saved.undo.id }));
      expect(await values()).toEqual({ Interpreter: null, Transport: null, Employer: null, Since: null });
    });

    it('names each answer that can’t be kept, and keeps none of them then', async () => {
      const { version } = await record();
      const bad = { Interpreter: 'maybe', Transport: 'Train', Employer: 'Fine', Since: '2021-02-29' };
      const { tag, issues } = refusalOf(await desk.call(saveFields, { id, version, answers: answers(bad) }));
      expect(tag).toBe('InvalidInput');
      expect(issues).toEqual(
        expect.arrayContaining([
          { path: `answers.${fieldIds.Interpreter}`, code: 'not-yes-or-no' },
          { path: `answers.${fieldIds.Transport}`, code: 'not-a-choice' },
          { path: `answers.${fieldIds.Since}`, code: 'not-a-date' },
        ]),
      );
      expect(issues).toHaveLength(3);
      expect((await values()).Employer).toBe(null);
    });

    it('keeps what stands in a field that is archived, and its kind once somebody answered', async () => {
      const { version } = await record();
      dataOf(await desk.call(saveFields, { id, version, answers: answers({ Employer: 'Brindle Mills' }) }));
      const { records } = dataOf(await manager.call(setup.fields.list, {}));
      const employer = records.find((row) => row.id === fieldIds.Employer) as (typeof records)[number];
      const refused = refusalOf(
        await manager.call(setup.fields.save, {
          records: [{ id: employer.id, version: employer.version, doc: { ...employer.doc, kind: 'number' } }],
        }),
      );
      expect(refused.issues?.[0].code).toBe('field-answered');
      dataOf(await manager.call(setup.fields.archive, { ids: [employer.id], active: false }));
      expect((await values()).Employer).toBeUndefined();
      const now = await record();
      dataOf(await desk.call(saveFields, { id, version: now.version, answers: answers({ Transport: 'Car' }) }));
      dataOf(await manager.call(setup.fields.archive, { ids: [employer.id], active: true }));
      expect(await values()).toMatchObject({ Employer: 'Brindle Mills', Transport: 'Car' });
    });

    const mother = {
      name: 'Renata Quill',
      kind: 'parent' as const,
      rights: ['book', 'sign'] as ('book' | 'sign')[],
      fromDate: '2020-01-01',
      untilDate: null,
      limits: 'May not take the child home alone',
    };
    const rights = async () => (await record()).relationships.find((row) => row.name === mother.name)?.rightsToday;

    // 18 where the state names no other age; Nebraska 19 (from memory).
    it('lets a parent act until majority where the patient is seen, counted on the site’s own date', async () => {
      const born = (years: number) => `${Number(TEST_DAY.slice(0, 4)) - years}${TEST_DAY.slice(4)}`;
      const setBirth = (date: string) =>
        world.sql.query('update patient set birth_date = $2 where id = $1', [id, date]);
      dataOf(await desk.call(addRelationship, { id, ...mother }));
      expect((await record()).relationships.find((row) => row.name === mother.name)?.limits).toBe(mother.limits);
      await setBirth(born(17));
      expect(await rights()).toEqual(['book', 'sign']);
      await setBirth(born(18));
      expect(await rights()).toEqual([]);
      await world.sql.query(
        `update site set region = 'NE' where id in (select site_id from appointment where patient_id = $1)`,
        [id],
      );
      expect(await rights()).toEqual(['book', 'sign']);
      await setBirth(born(19));
      expect(await rights()).toEqual([]);
      await setBirth(born(10));
    });

    it('ends it with a last date, which counts, and brings it back', async () => {
      const { relationships } = await record();
      const { id: relationshipId } = relationships.find((row) => row.name === mother.name) as { id: string };
      const before = refusalOf(await desk.call(endRelationship, { id, relationshipId, untilDate: '2019-12-31' }));
      expect(before.issues).toEqual([{ path: 'untilDate', code: 'until-before-from' }]);
      expect(await rights()).toEqual(['book', 'sign']);
      dataOf(await desk.call(endRelationship, { id, relationshipId, untilDate: TEST_DAY }));
      expect(await rights()).toEqual(['book', 'sign']);
      const ended = dataOf(await desk.call(endRelationship, { id, relationshipId, untilDate: '2026-01-01' }));
      expect(await rights()).toEqual([]);
      dataOf(await desk.call(undo, { id: ended.undo.id }));
      expect(await rights()).toEqual(['book', 'sign']);
      const nobody = await desk.call(endRelationship, { id, relationshipId: randomUUID(), untilDate: TEST_DAY });
      expect(refusalOf(nobody).tag).toBe('NotFound');
    });

    it('takes an addition back, and asks for a name and dates in order', async () => {
      const added = dataOf(await desk.call(addRelationship, { id, ...mother, name: 'By mistake' }));
      dataOf(await desk.call(undo, { id: added.undo.id }));
      expect((await record()).relationships.map(({ name }) => name)).not.toContain('By mistake');
      const bad = await desk.call(addRelationship, { id, ...mother, name: ' ', untilDate: '2019-01-01' });
      expect(refusalOf(bad).issues).toEqual([
        { path: 'name', code: 'needed' },
        { path: 'untilDate', code: 'until-before-from' },
      ]);
    });

    it('is for those who may change patients, and for a restricted one only for those who may open it', async () => {
      const reader = await signedIn(base, 'read-only');
      expect(refusalOf(await reader.call(addRelationship, { id, ...mother })).tag).toBe('NotAllowed');
      await world.sql.query('update patient set restricted = true where id = $1', [id]);
      const frontDesk = await signedIn(base, 'front-desk');
      expect(refusalOf(await frontDesk.call(addRelationship, { id, ...mother })).tag).toBe('NotAllowed');
      await world.sql.query('update patient set restricted = false where id = $1', [id]);
    });
  });
});
