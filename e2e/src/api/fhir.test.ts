import { cancelVisit } from '@zaguan/contracts/booking';
import * as intake from '@zaguan/contracts/intake';
import { Fhir } from 'fhir';
import type {
  Appointment,
  Bundle,
  Encounter,
  Location,
  OperationOutcome,
  Practitioner,
  PractitionerRole,
} from 'fhir/r4.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Client, dataOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit } from '../fixtures/patient.ts';
import { makeWorld, TEST_DAY, type World } from '../fixtures/world.ts';

/** HL7 FHIR R4 4.0.1 by the package `fhir`, which runs no invariants; app-1 to app-4 are therefore checked here (texts from memory). */
function invariantFaults(appointment: Appointment): string[] {
  const { status, start, end, cancelationReason, participant } = appointment;
  return [
    // Either the type or actor on the participant SHALL be specified.
    participant.every(({ type, actor }) => type || actor) ? '' : 'app-1',
    // Either start and end are specified, or neither.
    Boolean(start) === Boolean(end) ? '' : 'app-2',
    // Only proposed or cancelled appointments (or those on a waitlist) can be missing start and end.
    (start && end) || ['proposed', 'cancelled', 'waitlist'].includes(status) ? '' : 'app-3',
    // A cancellation reason is only used for appointments that have been cancelled, or were a no-show.
    !cancelationReason || ['cancelled', 'noshow'].includes(status) ? '' : 'app-4',
  ].filter(Boolean);
}

describe('FHIR', () => {
  let world: World;
  let desk: Client;
  let cookie: string;
  const fhir = new Fhir();
  beforeAll(async () => {
    world = await makeWorld('fhir');
    desk = await signedIn(world.servers[0].url, 'coordinator');
    cookie = desk.cookieHeader();
  });
  afterAll(() => world.close());

  /** As a FHIR client calls it: below /fhir, not below our own root. */
  const get = async <T>(path: string): Promise<{ status: number; type: string; body: T }> => {
    const answer = await fetch(`${world.servers[0].url}/fhir/${path}`, { headers: { cookie } });
    return { status: answer.status, type: answer.headers.get('content-type') ?? '', body: (await answer.json()) as T };
  };
  const validate = (resource: object) => {
    const { valid, messages } = fhir.validate(resource, { errorOnUnexpected: true });
    return { valid, messages: messages.filter(({ severity }) => severity === 'error') };
  };

  it('gives every visit of a day as a valid Appointment, in a valid searchset', async () => {
    const { status, type, body } = await get<Bundle>(`Appointment?date=${TEST_DAY}&_count=200`);
    expect([status, type]).toEqual([200, 'application/fhir+json; charset=utf-8']);
    expect(validate(body)).toEqual({ valid: true, messages: [] });
    const all = (body.entry ?? []).map(({ resource }) => resource as Appointment);
    expect(all.length).toBe(body.total);
    expect(all.length).toBeGreaterThan(10);
    expect(new Set(all.map((each) => each.status)).size).toBeGreaterThan(2);
    for (const each of all) {
      expect(validate(each)).toEqual({ valid: true, messages: [] });
      expect(invariantFaults(each)).toEqual([]);
    }
    const one = await get<Appointment>(`Appointment/${all[0].id}`);
    expect(one.body).toEqual(all[0]);
    const two = await get<Bundle>(`Appointment?date=${TEST_DAY}&_count=2`);
    expect([two.body.total, two.body.entry?.length]).toEqual([body.total, 2]);
  });

  it('can fail: the validator and the invariants see what is wrong', () => {
    expect(
      validate({ resourceType: 'Appointment', status: 'asleep', participant: [{ status: 'accepted', actor: {} }] })
        .valid,
    ).toBe(false);
    const bad: Appointment = {
      resourceType: 'Appointment',
      status: 'booked',
      start: '2026-12-01T15:00:00Z',
      cancelationReason: { text: 'x' },
      participant: [{ status: 'accepted' }],
    };
    expect(invariantFaults(bad)).toEqual(['app-1', 'app-2', 'app-3', 'app-4']);
  });

  it('gives a cancelled visit with its reason, and a person who is not known without a reference', async () => {
    const { id } = await bookedVisit(world.servers[0].url, 0);
    const open = (await get<Appointment>(`Appointment/${id}`)).body;
    expect(open.participant[0].actor).toEqual({ display: 'Marta Ruiz' });
    expect(validate(open).valid).toBe(true);
    dataOf(await desk.call(cancelVisit, { id, reason: 'patient-asked', note: '', version: 1 }));
    const off = (await get<Appointment>(`Appointment/${id}`)).body;
    expect(off).toMatchObject({ status: 'cancelled', cancelationReason: { coding: [{ code: 'pat' }] } });
    expect(validate(off)).toEqual({ valid: true, messages: [] });
    expect(invariantFaults(off)).toEqual([]);
  });

  it('makes a valid Encounter at check-in, tied to its appointment', async () => {
    const { rows } = await world.sql.query<{ id: string }>(
      "select id from appointment where site_date = $1 and status = 'booked' and identity = 'sure' and id not in (select appointment_id from red_flag) order by starts_at limit 1",
      [TEST_DAY],
    );
    const { id } = rows[0];
    const { readiness } = dataOf(await desk.call(intake.readiness, { id }));
    for (const item of readiness.items.filter(({ state, needed }) => needed && state === 'missing'))
      dataOf(await desk.call(intake.waive, { id, code: item.code, documentId: item.documentId, reason: 'On paper' }));
    dataOf(await desk.call(intake.checkIn, { id, version: readiness.version, identifiers: ['name', 'birth-date'] }));
    const { body } = await get<Bundle>(`Encounter?appointment=Appointment/${id}`);
    const encounter = body.entry?.[0].resource as Encounter;
    expect(validate(encounter)).toEqual({ valid: true, messages: [] });
    expect(encounter).toMatchObject({
      status: 'arrived',
      appointment: [{ reference: `Appointment/${id}` }],
      class: { code: 'AMB' },
    });
    expect((await get<Encounter>(`Encounter/${encounter.id}`)).body).toEqual(encounter);
    expect((await get<Appointment>(`Appointment/${id}`)).body.status).toBe('checked-in');
  });

  it('refuses with an OperationOutcome, without saying whose visit it would be', async () => {
    const missing = await get<OperationOutcome>('Appointment/00000000-0000-4000-8000-000000000000');
    expect([missing.status, missing.body.issue[0].code]).toEqual([404, 'not-found']);
    expect(validate(missing.body)).toEqual({ valid: true, messages: [] });
    const wrong = await get<OperationOutcome>('Appointment?date=yesterday');
    expect([wrong.status, wrong.body.issue[0].code]).toEqual([400, 'invalid']);
    const stranger = await fetch(`${world.servers[0].url}/fhir/Appointment?date=${TEST_DAY}`);
    expect([stranger.status, ((await stranger.json()) as OperationOutcome).issue[0].code]).toEqual([401, 'login']);
    const frontDesk = await signedIn(world.servers[0].url, 'front-desk');
    const denied = await fetch(`${world.servers[0].url}/fhir/Appointment?date=${TEST_DAY}`, {
      headers: { cookie: frontDesk.cookieHeader() },
    });
    expect([denied.status, ((await denied.json()) as OperationOutcome).issue[0].code]).toEqual([403, 'forbidden']);
  });

  it.each(['Location', 'Practitioner', 'PractitionerRole', 'HealthcareService'] as const)(
    'gives what the clinic is made of as valid %s resources, found by id, name and count',
    async (type) => {
      const { status, body } = await get<Bundle>(type);
      expect(status).toBe(200);
      expect(validate(body)).toEqual({ valid: true, messages: [] });
      const all = (body.entry ?? []).map(({ resource }) => resource as Location);
      expect(all.length).toBe(body.total);
      expect(all.length).toBeGreaterThan(1);
      for (const each of all) expect(validate(each)).toEqual({ valid: true, messages: [] });
      const one = await get<Location>(`${type}/${all[0].id}`);
      expect(one.body).toEqual(all[0]);
      const byId = await get<Bundle>(`${type}?_id=${all[1].id}`);
      expect(byId.body.entry?.map(({ resource }) => resource?.id)).toEqual([all[1].id]);
      const counted = await get<Bundle>(`${type}?_count=1`);
      expect([counted.body.entry?.length, counted.body.total]).toEqual([1, all.length]);
      expect((await get(`${type}/00000000-0000-4000-8000-000000000000`)).status).toBe(404);
      expect((await get(`${type}?_count=0`)).status).toBe(400);
    },
  );

  it('names a site’s zone, a provider’s NPI, and who performs what', async () => {
    const sites = (await get<Bundle>('Location?name=Brindlewood at Mesa')).body.entry ?? [];
    const site = sites[0]?.resource as Location;
    expect(site.extension).toEqual([
      { url: 'http://hl7.org/fhir/StructureDefinition/timezone', valueCode: 'America/Denver' },
    ]);
    expect(site.hoursOfOperation?.[0].daysOfWeek?.[0]).toBe('mon');
    const person = ((await get<Bundle>('Practitioner?name=Dr. Inés')).body.entry ?? [])[0]?.resource as Practitioner;
    expect(person.identifier?.[0]).toEqual({ system: 'http://hl7.org/fhir/sid/us-npi', value: '1234567893' });
    const role = (await get<PractitionerRole>(`PractitionerRole/${person.id}`)).body;
    expect(role.practitioner?.reference).toBe(`Practitioner/${person.id}`);
    expect(role.healthcareService?.map(({ display }) => display)).toContain('Follow-up');
    expect(role.location?.length).toBeGreaterThan(0);
  });
});
