import { cancelVisit, moveVisit } from '@zaguan/contracts/booking';
import { createPerson, listIdentityReview } from '@zaguan/contracts/identityReview';
import { findOpenings, findTimes, type TimesCriteria } from '@zaguan/contracts/openings';
import { patientRecord, saveDetails } from '@zaguan/contracts/patients';
import * as setup from '@zaguan/contracts/setup';
import { undo } from '@zaguan/contracts/undo';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ROOMS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { type Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit, MARTA } from '../fixtures/patient.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

describe('what a patient needs with every visit', () => {
  let world: World;
  let base: string;
  let desk: Client;
  beforeAll(async () => {
    world = await makeWorld('needs');
    base = world.servers[0].url;
    desk = await signedIn(base, 'coordinator');
  });
  afterAll(() => world.close());

  const record = async (id: string) => dataOf(await desk.call(patientRecord, { id })).record;
  const needs = async (id: string, what: { access?: ('patient-lift' | 'step-free')[]; extraMin?: number }) => {
    const { version } = await record(id);
    return dataOf(await desk.call(saveDetails, { id, version, ...what }));
  };
  const times = async (visitTypeId: string, patientId: string | null, more: Partial<TimesCriteria> = {}) =>
    dataOf(
      await desk.call(findTimes, {
        members: [{ visitTypeId, kind: 'established', patientId }],
        ...{ channel: 'desk', siteIds: [SITES.canal], providerIds: null, from: TEST_DAY, days: 7, weekdays: null },
        ...{ fromMinute: 0, toMinute: 1440, language: null, access: [], series: null },
        household: { how: 'back-to-back', mostWaitMin: 0 },
        ...more,
      }),
    );
  const someone = async () =>
    (
      await world.sql.query<{ id: string }>(
        "select id from patient p where not restricted and status = 'active' and not exists (select 1 from appointment a where a.patient_id = p.id) order by id limit 1",
      )
    ).rows[0].id;
  const minutes = ({ start, end }: { start: string; end: string }) => (Date.parse(end) - Date.parse(start)) / 60_000;

  it('makes each time that is found longer, and leaves other patients’ as they are', async () => {
    const id = await someone();
    const usual = await times(TYPES.follow, id);
    const { undo: way } = await needs(id, { extraMin: 15 });
    const longer = await times(TYPES.follow, id);
    expect(minutes(longer.times[0])).toBe(minutes(usual.times[0]) + 15);
    expect(longer.counts[0].starts).toBeLessThan(usual.counts[0].starts);
    expect(await times(TYPES.follow, null)).toEqual(usual);
    dataOf(await desk.call(undo, { id: way.id }));
    expect(await times(TYPES.follow, id)).toEqual(usual);
  });

  it('looks only for rooms that have it, says what could be given up, and finds them once there are some', async () => {
    const id = await someone();
    const { undo: way } = await needs(id, { access: ['patient-lift'] });
    const none = await times(TYPES.skin, id);
    expect([none.times, none.relaxations.map(({ giveUp }) => giveUp)]).toEqual([[], [['access']]]);
    expect((await times(TYPES.skin, null)).times.length).toBeGreaterThan(0);
    const [room] = dataOf(await desk.call(setup.places.list, {})).records.filter((row) => row.id === ROOMS[0]);
    const doc = { ...room.doc, access: ['patient-lift' as const] };
    dataOf(await desk.call(setup.places.save, { records: [{ id: room.id, version: room.version, doc }] }));
    expect((await times(TYPES.skin, id)).times.length).toBeGreaterThan(0);
    dataOf(await desk.call(undo, { id: way.id }));
  });

  /** A booked visit of somebody on record. */
  const booked = async (contact: string) => {
    const { id: visit } = await bookedVisit(base, 1, { ...MARTA, familyName: `Ruiz ${contact.slice(-2)}`, contact });
    const row = dataOf(await desk.call(listIdentityReview, {})).waiting.find(
      ({ appointmentId }) => appointmentId === visit,
    );
    dataOf(await desk.call(createPerson, { id: visit, version: row?.version ?? 0 }));
    return visit;
  };
  const visitRow = async (visit: string) =>
    (
      await world.sql.query<{
        patient: string;
        site: string;
        provider: string;
        start: Date;
        end: Date;
        version: number;
        type: string;
      }>(
        'select patient_id as patient, site_id as site, provider_id as provider, starts_at as start, ends_at as end, version, visit_type_id as type from appointment where id = $1',
        [visit],
      )
    ).rows[0];
  const lengthOf = ({ start, end }: { start: Date; end: Date }) => (end.getTime() - start.getTime()) / 60_000;

  it('moves a visit into a time that is long enough, and brings a canceled one back as long as it was', async () => {
    const visit = await booked('(312) 555-0171');
    const before = await visitRow(visit);
    await needs(before.patient, { extraMin: 20 });
    const found = dataOf(
      await desk.call(findOpenings, {
        ...{ visitTypeId: before.type as never, siteId: before.site as never, kind: 'established' },
        ...{ channel: 'desk', from: TEST_DAY, days: 14, movingId: visit as never },
      }),
    ).openings;
    const [to] = found.filter(({ start, providerId }) => start !== before.start.toISOString() && providerId !== null);
    const move = { id: visit, siteId: to.siteId, providerId: to.providerId, start: to.start, version: before.version };
    const moved = dataOf(await desk.call(moveVisit, move as never)) as { version: number; undo: { id: string } };
    const after = await visitRow(visit);
    expect(lengthOf(after)).toBe(lengthOf(before) + 20);
    const canceled = dataOf(
      await desk.call(cancelVisit, { id: visit as never, version: moved.version, reason: 'patient-asked', note: '' }),
    );
    dataOf(await desk.call(undo, { id: canceled.undo.id }));
    expect(lengthOf(await visitRow(visit))).toBe(lengthOf(before) + 20);
  });

  it('does not move a visit where what its patient needs is not to be had', async () => {
    const visit = await booked('(312) 555-0172');
    const { patient, site, provider, start, version } = await visitRow(visit);
    await needs(patient, { access: ['patient-lift'] });
    const later = new Date(start.getTime() + 3 * 3_600_000).toISOString();
    const move = { id: visit, siteId: site, providerId: provider, start: later, version };
    const refused = refusalOf(await desk.call(moveVisit, move as never));
    expect(['TimeTaken', 'NotOffered']).toContain(refused.tag);
    expect((await visitRow(visit)).version).toBe(version);
  });
});
