import { patientRecord } from '@zaguan/contracts/patients';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

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
});
