import type { Endpoint } from '@zaguan/contracts';
import { daybookDay, unfoldDay } from '@zaguan/contracts/daybook';
import { board, readiness, saveFormByLink } from '@zaguan/contracts/intake';
import { todaysWork } from '@zaguan/contracts/today';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FORM_ID } from '../../../demo/src/forms.ts';
import { endpointsOf } from '../../../server/src/endpoints.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { linkOn } from '../fixtures/link.ts';
import { makeRestricted, SECRET, toldBy } from '../fixtures/restricted.ts';
import { inputFor } from '../fixtures/samples.ts';
import { makeWorld, passMinutes, type World } from '../fixtures/world.ts';

const ENDPOINTS: Endpoint[] = endpointsOf({ demo: true, proof: true }).map(({ endpoint }) => endpoint);

describe('a restricted record', () => {
  let world: World;
  let base: string;
  let visitId: string;
  let patientId: string;
  let date: string;
  beforeAll(async () => {
    world = await makeWorld('restricted');
    base = world.servers[0].url;
    ({ visitId, patientId, date } = await makeRestricted(world));
  });
  afterAll(() => world.close());

  const inputs = (endpoint: Endpoint): Record<string, unknown> => {
    const given = inputFor(endpoint);
    if (endpoint.path.includes('/appointments/')) given.id = visitId;
    if (endpoint.path.includes('/patients/')) given.id = patientId;
    if (endpoint.path.includes('/fhir/Appointment')) Object.assign(given, { id: visitId, date, _count: 500 });
    if (endpoint.path.includes('/fhir/Encounter')) given.appointment = `Appointment/${visitId}`;
    if ('date' in given) given.date = date;
    // All sites: where the visit is, too.
    if (endpoint.name === 'daybook.day') delete given.siteId;
    delete given.status;
    return given;
  };
  const READ = ENDPOINTS.filter(
    ({ method, answers, path }) => method === 'get' && answers !== 'stream' && !path.startsWith('/public/'),
  );

  for (const role of ['front-desk', 'provider', 'read-only'] as const)
    it(`is told by no endpoint to the role ${role}`, async () => {
      const client = await signedIn(base, role);
      const leaks: string[] = [];
      for (const endpoint of READ) {
        const answer = await client.send('get', endpoint.path, inputs(endpoint));
        expect(answer.status, endpoint.name).toBeLessThan(500);
        const told = toldBy(answer.text);
        if (told.length) leaks.push(`${endpoint.name}: ${told.join(', ')}`);
      }
      expect(leaks).toEqual([]);
    });

  it('is shown to a coordinator by the same endpoints: the walk looks where it would be seen', async () => {
    const client = await signedIn(base, 'coordinator');
    const tells: string[] = [];
    for (const endpoint of READ)
      if (toldBy((await client.send('get', endpoint.path, inputs(endpoint))).text).length) tells.push(endpoint.name);
    for (const name of ['daybook.day', 'today.list', 'intake.readiness', 'intake.packetAtDesk', 'patients.record'])
      expect(tells, name).toContain(ENDPOINTS.find((endpoint) => endpoint.name === name)?.name ?? name);
    expect(tells.length).toBeGreaterThanOrEqual(7);
  });

  it('is seen on the visit’s own day by who treats or checks in, and each look is logged', async () => {
    const { rows } = await world.sql.query<{ minutes: number; site: string; provider: string }>(
      "select (extract(epoch from starts_at - (clock_timestamp() + offset_ms * interval '1 millisecond')) / 60)::float8 as minutes, site_id as site, provider_id as provider from appointment, domain_clock where id = $1",
      [visitId],
    );
    const desk = await signedIn(base, 'front-desk');
    expect(refusalOf(await desk.call(readiness, { id: visitId })).tag).toBe('NotAllowed');
    await passMinutes(world, Math.round(rows[0].minutes) - 30);
    const seen = dataOf(await desk.call(readiness, { id: visitId })).readiness;
    expect(seen.identifiers?.find(({ identifier }) => identifier === 'name')?.value).toBe('Zyxwina Quorthonby');
    const plate = async (client: Client) =>
      unfoldDay(dataOf(await client.call(daybookDay, { date })))
        .sites.flatMap(({ lanes }) => lanes.flatMap(({ plates }) => plates))
        .find(({ id }) => id === visitId);
    expect((await plate(desk))?.name).toBe('Zyxwina Quorthonby');
    expect(await plate(await signedIn(base, 'read-only'))).toMatchObject({
      name: 'Restricted ZQ',
      shortName: 'Restricted ZQ',
      familyFirst: 'Restricted ZQ',
    });
    // Another provider than the visit's own sees no more than anyone.
    const other = await world.sql.query<{ id: string }>(
      "select id from resource where kind = 'provider' and id <> $1 limit 1",
      [rows[0].provider],
    );
    const setProvider = (id: string) =>
      world.sql.query("update account set resource_id = $1 where role = 'provider'", [id]);
    await setProvider(other.rows[0].id);
    expect((await plate(await signedIn(base, 'provider')))?.name).toBe('Restricted ZQ');
    await setProvider(rows[0].provider);
    expect((await plate(await signedIn(base, 'provider')))?.name).toBe('Zyxwina Quorthonby');
    const logged = await world.sql.query<{ command: string; role: string }>(
      `select e.command, a.role from audit_entry e join account a on a.id = e.account_id where e.kind = 'read' and e.subjects @> $1::jsonb and a.role in ('front-desk','provider','read-only')`,
      [JSON.stringify([{ kind: 'patient', id: patientId }])],
    );
    expect([...new Set(logged.rows.map(({ role }) => role))].sort()).toEqual(['front-desk', 'provider']);
  });

  it('hides no red flag from a clinician, whoever’s patient it is', async () => {
    const token = await linkOn(world, visitId);
    dataOf(
      await new Client(base).call(saveFormByLink, {
        ...{ token, formId: FORM_ID, complete: false, birthDate: SECRET.birthDate, language: 'en' as const },
        changes: [{ linkId: 'breathing', value: [true], base: 0 }],
      }),
    );
    await world.sql.query(
      "update account set resource_id = (select id from resource where kind = 'provider' and id <> (select provider_id from appointment where id = $1) limit 1) where role = 'provider'",
      [visitId],
    );
    const flagOf = async (role: 'provider' | 'front-desk') =>
      dataOf(await (await signedIn(base, role)).call(todaysWork, {})).work.find(
        (row) => row.kind === 'red-flag' && row.visit?.appointmentId === visitId,
      );
    expect(await flagOf('provider')).toMatchObject({ phone: SECRET.contact, visit: { name: 'Zyxwina Quorthonby' } });
    expect(
      dataOf(await (await signedIn(base, 'read-only')).call(board, {}))
        .sites.flatMap(({ visits }) => visits)
        .find(({ id }) => id === visitId)?.name,
    ).toBe('Restricted ZQ');
  });
});
