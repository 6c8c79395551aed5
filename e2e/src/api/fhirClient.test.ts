import { cancelVisit } from '@zaguan/contracts/booking';
import { askRequest, requests as requestList, withdrawRequest } from '@zaguan/contracts/desk';
import * as contracts from '@zaguan/contracts/fhir';
import { Fhir } from 'fhir';
import type {
  Appointment,
  Bundle,
  CapabilityStatement,
  FhirResource,
  OperationOutcome,
  RelatedPerson,
  ServiceRequest,
  Slot,
} from 'fhir/r4.js';
import { Client } from 'fhir-kit-client';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { type Client as Desk, dataOf, signedIn } from '../fixtures/client.ts';
import { makeWorld, passMinutes, TEST_DAY, type World } from '../fixtures/world.ts';

/** A busy day far ahead: as many visits as a large clinic has. */
const DAY = '2027-03-01';
const VISITS = 530;

/*
 * A client that no one here wrote (fhir-kit-client) goes through what this server gives: HL7 FHIR R4 4.0.1, checked by
 * the package `fhir`, which knows the standard's own structure definitions.
 */
describe('a foreign FHIR client', () => {
  let world: World;
  let base: string;
  let desk: Desk;
  let client: Client;
  const validator = new Fhir();
  const faults = (resource: object) =>
    validator.validate(resource, { errorOnUnexpected: true }).messages.filter(({ severity }) => severity === 'error');

  beforeAll(async () => {
    world = await makeWorld('fhir_client');
    base = `${world.servers[0].url}/fhir`;
    desk = await signedIn(world.servers[0].url, 'coordinator');
    client = new Client({ baseUrl: base, customHeaders: { cookie: desk.cookieHeader() } });
    await world.sql.query(
      `insert into appointment (id, site_id, visit_type_id, provider_id, patient_id, patient_kind, status, identity, origin, starts_at, ends_at, provider_starts_at, provider_ends_at, before_min, after_min, site_date, changed_at, created_at)
       select gen_random_uuid(), $1, $2, $3, (select id from patient where not restricted order by record_number offset n % 20 limit 1), 'established', 'booked', 'sure', 'desk', t, t + interval '5 minutes', t, t + interval '5 minutes', 0, 0, $4, now() - interval '1 year', now() - interval '1 year'
       from generate_series(1, $5::int) n, lateral (select ($4::date + time '14:00' + (n / 4) * interval '5 minutes') at time zone 'UTC' as t) x`,
      [SITES.canal, TYPES.follow, PROVIDERS.amaya, DAY, VISITS],
    );
  });
  afterAll(() => world.close());

  const search = (resourceType: string, searchParams: Record<string, string | number | string[]>) =>
    client.search({ resourceType, searchParams }) as unknown as Promise<Bundle>;
  const resources = <T extends FhirResource>(bundle: Bundle) =>
    (bundle.entry ?? []).map(({ resource }) => resource as T);
  const idsOf = (bundle: Bundle) => resources(bundle).map(({ id }) => id);

  it('reads what the server can do, and the server does all of it and no more', async () => {
    const statement = (await client.capabilityStatement()) as unknown as CapabilityStatement;
    expect(faults(statement)).toEqual([]);
    const said = statement.rest?.[0].resource ?? [];
    expect(said.length).toBe(11);
    const stranger = await fetch(`${base}/metadata`);
    expect(stranger.status).toBe(200);
    const { clinicResources, ...rest } = contracts;
    const all = [...Object.values(rest), ...Object.values(clinicResources).flatMap((two) => Object.values(two))];
    const endpoints = all.flatMap((each) => ('path' in each ? [each] : [])) as {
      path: string;
      query?: { shape: Record<string, unknown> };
      body?: { shape: Record<string, unknown> };
    }[];
    for (const { type, searchParam = [], interaction = [], versioning } of said) {
      expect([type, versioning]).toEqual([type, ['Schedule', 'Slot'].includes(type) ? 'no-version' : 'versioned']);
      expect(interaction.map(({ code }) => code)).toEqual(['read', 'search-type']);
      // What tells who somebody is may be searched for by POST alone.
      const byPost = endpoints.find(({ path }) => path === `/fhir/${type}/_search`)?.body?.shape ?? {};
      const shape = { ...byPost, ...endpoints.find(({ path }) => path === `/fhir/${type}`)?.query?.shape };
      for (const { name } of searchParam) expect([type, name, name in shape]).toEqual([type, name, true]);
      // Each is taken by the running server, too.
      const value = { token: 'x', reference: crypto.randomUUID(), date: DAY, string: 'x' } as Record<string, string>;
      for (const { name, type: kind } of searchParam) {
        const wanted = name === '_id' && type !== 'Slot' ? crypto.randomUUID() : value[kind];
        const typed = name === 'actor' ? `Location/${wanted}` : wanted;
        const status =
          name === 'status'
            ? { Appointment: 'booked', Slot: 'free', Encounter: 'arrived', ServiceRequest: 'active' }[type as string]
            : null;
        const params = new URLSearchParams({ [name]: status ?? (name === 'active' ? 'true' : typed) });
        const headers = { cookie: desk.cookieHeader(), 'x-csrf-token': desk.csrfToken };
        const answer =
          name in byPost && name !== '_id'
            ? await fetch(`${base}/${type}/_search`, { method: 'POST', headers, body: params })
            : await fetch(`${base}/${type}?${params}`, { headers });
        expect([type, name, answer.status]).toEqual([type, name, 200]);
      }
    }
  });

  it('goes through a day of more than 500 visits page by page, each once, each readable where it says it is', async () => {
    let bundle = await search('Appointment', { date: DAY, _count: 100 });
    expect(bundle.total).toBe(VISITS);
    const seen = new Map<string, Appointment>();
    let pages = 0;
    for (;;) {
      expect(faults(bundle)).toEqual([]);
      pages++;
      for (const { fullUrl, resource } of bundle.entry ?? []) {
        expect(fullUrl).toBe(`${base}/Appointment/${resource?.id}`);
        expect(seen.has(resource?.id ?? '')).toBe(false);
        seen.set(resource?.id ?? '', resource as Appointment);
      }
      if (!bundle.link?.some(({ relation }) => relation === 'next')) break;
      // A visit that is booked meanwhile shifts nothing.
      if (pages === 2)
        await world.sql.query(
          `insert into appointment select (jsonb_populate_record(a, jsonb_build_object('id', gen_random_uuid(), 'starts_at', a.starts_at - interval '1 hour', 'ends_at', a.ends_at - interval '1 hour', 'provider_starts_at', a.starts_at - interval '1 hour', 'provider_ends_at', a.ends_at - interval '1 hour'))).* from appointment a where a.id = $1`,
          [[...seen.keys()][0]],
        );
      bundle = (await client.nextPage({ bundle: bundle as never })) as unknown as Bundle;
    }
    expect([pages, seen.size]).toEqual([6, VISITS]);
    const starts = [...seen.values()].map(({ start }) => start ?? '');
    expect(starts).toEqual([...starts].sort());
    const [first] = seen.values();
    const byUrl = (await client.request(`${base}/Appointment/${first.id}`)) as unknown as Appointment;
    expect(byUrl).toEqual(first);
    // Whatever it refers to is there.
    for (const { actor } of first.participant) {
      const resource = (await client.resolve({ reference: actor?.reference ?? '' })) as unknown as FhirResource;
      expect(`${resource.resourceType}/${resource.id}`).toBe(actor?.reference);
      expect(faults(resource)).toEqual([]);
    }
  }, 60_000);

  it('finds visits by date with prefixes, choices, patient, practitioner, location and actor', async () => {
    const total = async (params: Record<string, string | string[]>) => (await search('Appointment', params)).total;
    const whole = (await total({ date: DAY })) ?? 0;
    expect(await total({ date: ['ge2027-03-01', 'lt2027-03-02'] })).toBe(whole);
    expect(await total({ date: ['gt2027-02-28', 'le2027-03-01'] })).toBe(whole);
    expect(await total({ date: '2027-03', location: SITES.canal })).toBe(whole);
    expect(await total({ date: ['sa2027-03-01', 'lt2027-03-20'] })).toBe(0);
    // Four at 14:05 UTC: an instant, exact to the minute.
    expect(await total({ date: '2027-03-01T14:05Z' })).toBe(4);
    expect(await total({ date: ['ge2027-03-01T14:05:00Z', 'lt2027-03-01T14:15:00Z'] })).toBe(8);
    const [{ participant }] = resources<Appointment>(await search('Appointment', { date: DAY, _count: '1' }));
    const patient = participant.find(({ actor }) => actor?.reference?.startsWith('Patient/'))?.actor?.reference ?? '';
    const ofPatient = await total({ patient, date: DAY });
    expect(ofPatient).toBeGreaterThan(20);
    expect(await total({ patient: patient.replace('Patient/', ''), date: DAY })).toBe(ofPatient);
    expect(await total({ patient: `${base}/${patient}`, date: DAY })).toBe(ofPatient);
    expect(await total({ actor: patient, date: DAY })).toBe(ofPatient);
    expect(await total({ practitioner: `Practitioner/${PROVIDERS.amaya}`, date: DAY })).toBe(whole);
    expect(await total({ practitioner: `${PROVIDERS.lund},${PROVIDERS.amaya}`, date: DAY })).toBe(whole);
    expect(await total({ practitioner: PROVIDERS.lund, date: DAY })).toBe(0);
    expect(await total({ actor: `HealthcareService/${TYPES.follow}`, date: DAY })).toBe(whole);
    const two = idsOf(await search('Appointment', { date: DAY, _count: '2' }));
    expect(idsOf(await search('Appointment', { _id: two.join(',') }))).toEqual(two);
    const today = { date: TEST_DAY };
    const [booked, fulfilled] = [
      await total({ ...today, status: 'booked' }),
      await total({ ...today, status: 'fulfilled' }),
    ];
    expect(await total({ ...today, status: 'booked,fulfilled' })).toBe((booked ?? 0) + (fulfilled ?? 0));
  });

  it('asks only for what is new: by version, and by when it was changed', async () => {
    const [visit] = resources<Appointment>(await search('Appointment', { date: DAY, _count: 1 }));
    const read = (etag = '') =>
      fetch(`${base}/Appointment/${visit.id}`, {
        cache: 'no-cache',
        headers: { cookie: desk.cookieHeader(), 'if-none-match': etag },
      });
    const first = await read();
    expect(first.headers.get('etag')).toBe('W/"1"');
    expect((await read('W/"1"')).status).toBe(304);
    await passMinutes(world, 5);
    const since = new Date(Date.parse(visit.meta?.lastUpdated ?? '') + 1000).toISOString();
    const changedBefore = idsOf(await search('Appointment', { date: DAY, _lastUpdated: `gt${since}` }));
    dataOf(await desk.call(cancelVisit, { id: visit.id as never, reason: 'patient-asked', note: '', version: 1 }));
    const again = await read('W/"1"');
    const now = (await again.json()) as Appointment;
    expect([again.status, again.headers.get('etag'), now.meta?.versionId, now.status]).toEqual([
      200,
      'W/"2"',
      '2',
      'cancelled',
    ]);
    const changed = idsOf(await search('Appointment', { date: DAY, _lastUpdated: `gt${since}` }));
    expect(changed.filter((id) => !changedBefore.includes(id))).toEqual([visit.id]);
  });

  it('sees the kind of visit as a code and a service, on visits, schedules and slots', async () => {
    const [visit] = resources<Appointment>(await search('Appointment', { date: DAY, _count: 1 }));
    const coding = visit.serviceType?.[0].coding?.[0];
    expect(coding).toMatchObject({ system: `${base}/sid/visit-type`, code: 'follow-up' });
    const [service] = idsOf(await search('HealthcareService', { identifier: `${coding?.system}|${coding?.code}` }));
    expect(visit.participant.some(({ actor }) => actor?.reference === `HealthcareService/${service}`)).toBe(true);
    const schedules = await search('Schedule', { actor: `HealthcareService/${service}` });
    expect(schedules.total).toBeGreaterThan(1);
    const schedule = idsOf(await search('Schedule', { actor: `Practitioner/${PROVIDERS.amaya}` })).join(',');
    const slots = resources<Slot>(await search('Slot', { schedule, status: 'free,busy', _count: 10 }));
    expect(slots.length).toBeGreaterThan(3);
    for (const slot of slots)
      expect(slot.serviceType?.some((type) => type.coding?.[0].code === 'follow-up')).toBe(true);
  });

  it('reads names apart, identifiers with their systems, and nothing that says nothing', async () => {
    const everything: FhirResource[] = [];
    for (const type of ['Location', 'Practitioner', 'PractitionerRole', 'HealthcareService', 'Schedule', 'Slot'])
      everything.push(...resources(await search(type, { _count: 200 })));
    everything.push(...resources(await search('Appointment', { date: TEST_DAY })));
    const [amaya] = resources(await search('Practitioner', { name: 'Amaya' }));
    expect(amaya).toMatchObject({
      name: [{ text: 'Dr. Inés Amaya', prefix: ['Dr.'], given: ['Inés'], family: 'Amaya' }],
    });
    const patients = everything.flatMap((each) =>
      each.resourceType === 'Appointment' ? each.participant.flatMap(({ actor }) => actor?.reference ?? []) : [],
    );
    const ids = [...new Set(patients)].filter((each) => each.startsWith('Patient/')).map((each) => each.slice(8));
    const records = resources(await search('Patient', { _id: ids.slice(0, 20).join(',') }));
    expect(records.length).toBeGreaterThan(5);
    everything.push(...records);
    for (const record of records)
      expect(record).toMatchObject({ name: [{ family: expect.any(String), given: [expect.any(String)] }] });
    const empty = (value: unknown): boolean =>
      value === '' ||
      (typeof value === 'object' &&
        (value === null || Object.keys(value).length === 0 || Object.values(value).some(empty)));
    for (const each of everything) {
      expect(empty(each)).toBe(false);
      expect(faults(each)).toEqual([]);
      for (const { system } of ('identifier' in each && Array.isArray(each.identifier) ? each.identifier : []) as {
        system?: string;
      }[])
        expect(system).toMatch(/^http/);
    }
  });

  it('gets an OperationOutcome for whatever can’t be done', async () => {
    const refused = async (ask: Promise<unknown>) => {
      const error = (await ask.then(
        () => null,
        (reason) => reason,
      )) as { response: { status: number; data: OperationOutcome } } | null;
      if (!error) throw new Error('This must be refused.');
      expect(faults(error.response.data)).toEqual([]);
      return [error.response.status, error.response.data.issue[0].code, error.response.data.issue[0].expression?.[0]];
    };
    const read = (resourceType: string, id: string) => client.read({ resourceType, id });
    expect(await refused(read('Appointment', crypto.randomUUID()))).toEqual([404, 'not-found', undefined]);
    expect(await refused(read('Appointment', 'no-such-form'))).toEqual([404, 'not-found', undefined]);
    expect(await refused(read('Observation', '1'))).toEqual([404, 'not-supported', undefined]);
    expect(await refused(search('Observation', { code: 'x' }))).toEqual([404, 'not-supported', undefined]);
    expect(await refused(search('Appointment', { date: 'ne2027-03-01' }))).toEqual([400, 'invalid', 'date']);
    expect(await refused(search('Appointment', { date: '2027-02-30T99:00Z' }))).toEqual([400, 'invalid', 'date']);
    expect(await refused(search('Appointment', { status: 'booked,asleep' }))).toEqual([400, 'invalid', 'status']);
    expect(await refused(search('Appointment', { patient: 'Ana' }))).toEqual([400, 'invalid', 'patient']);
    expect(await refused(search('Appointment', { date: DAY, _page: '12' }))).toEqual([400, 'invalid', '_page']);
    expect(await refused(search('Location', { _page: 'abc' }))).toEqual([400, 'invalid', '_page']);
    expect(await refused(search('Appointment', { favorite: 'x' }))).toEqual([400, 'invalid', '']);
    expect(await refused(search('Patient', { family: 'Ruiz' }))).toEqual([400, 'invalid', '_id']);
    expect(
      await refused(client.create({ resourceType: 'Appointment', body: { resourceType: 'Appointment' } as never })),
    ).toEqual([404, 'not-supported', undefined]);
  });

  it('does not see a restricted record, and is not told that there is one', async () => {
    const { rows } = await world.sql.query<{ id: string }>('select id from patient limit 1');
    const [{ id }] = rows;
    await world.sql.query('update patient set restricted = true where id = $1', [id]);
    const provider = await signedIn(world.servers[0].url, 'provider');
    const other = new Client({ baseUrl: base, customHeaders: { cookie: provider.cookieHeader() } });
    const found = (await other.search({ resourceType: 'Patient', searchParams: { _id: id } })) as unknown as Bundle;
    expect(found.total).toBe(0);
    await expect(other.read({ resourceType: 'Patient', id })).rejects.toMatchObject({ response: { status: 404 } });
    expect(((await search('Patient', { _id: id })) as Bundle).total).toBe(1);
    const trail = await world.sql.query("select 1 from audit_entry where command = 'fhir.searchPatients'");
    expect(trail.rows.length).toBeGreaterThan(0);
  });

  it('finds patients by POST, by what tells who they are, and says nothing of it in an address', async () => {
    const { rows } = await world.sql.query<Record<'id' | 'given' | 'family' | 'born' | 'number' | 'phone', string>>(
      `select p.id, p.given_name as given, p.family_name as family, p.birth_date::text as born, p.record_number as number, min(c.value) as phone
       from patient p join patient_contact pc on pc.patient_id = p.id join contact_point c on c.id = pc.contact_point_id and c.kind = 'phone'
       where not p.restricted and p.status = 'active' group by p.id order by p.record_number limit 1`,
    );
    const [who] = rows;
    const poster = new Client({
      baseUrl: base,
      customHeaders: { cookie: desk.cookieHeader(), 'x-csrf-token': desk.csrfToken },
    });
    const post = async (searchParams: Record<string, string>) => {
      const bundle = (await poster.search({
        resourceType: 'Patient',
        searchParams,
        options: { postSearch: true },
      })) as unknown as Bundle;
      expect(faults(bundle)).toEqual([]);
      for (const { url } of bundle.link ?? []) expect(url).not.toContain(who.family);
      return idsOf(bundle);
    };
    const system = `${base}/sid/record-number`;
    const searches: Record<string, string>[] = [
      { identifier: who.number },
      { identifier: `${system}|${who.number}` },
      { family: who.family.slice(0, 3).toUpperCase(), given: who.given, birthdate: who.born },
      { name: who.family, birthdate: `ge${who.born.slice(0, 4)}` },
      { name: `${who.given} ${who.family}` },
      { telecom: who.phone, family: who.family },
      { phone: `phone|${who.phone}`, given: who.given },
    ];
    for (const params of searches)
      expect([params, await post(params)]).toEqual([params, expect.arrayContaining([who.id])]);
    expect(await post({ identifier: `other|${who.number}` })).toEqual([]);
    expect(await post({ family: who.given, birthdate: who.born, given: who.family })).toEqual([]);
    expect(await post({ email: 'nobody@example.com' })).toEqual([]);
    // By an address it is refused, whatever it asks for.
    const asked = await fetch(`${base}/Patient?family=${who.family}`, { headers: { cookie: desk.cookieHeader() } });
    expect(asked.status).toBe(400);
    await world.sql.query('update patient set restricted = true where id = $1', [who.id]);
    const reader = await signedIn(world.servers[0].url, 'read-only');
    const found = await fetch(`${base}/Patient/_search`, {
      method: 'POST',
      headers: { cookie: reader.cookieHeader(), 'x-csrf-token': reader.csrfToken },
      body: new URLSearchParams({ identifier: who.number }),
    });
    expect(((await found.json()) as Bundle).total).toBe(0);
    await world.sql.query('update patient set restricted = false where id = $1', [who.id]);
  });

  it('reads who may act for a patient, by the patient and by id, until they no longer may', async () => {
    const { rows } = await world.sql.query<{ id: string }>(
      'select id from patient where not restricted order by id limit 1',
    );
    const [{ id: patient }] = rows;
    const add = (name: string, kind: string, until: string | null) =>
      world.sql.query(
        `insert into relationship (id, patient_id, related_name, kind, may_book, from_date, until_date) values (gen_random_uuid(), $1, $2, $3, true, '2020-01-01', $4)`,
        [patient, name, kind, until],
      );
    await add('Renata Quill', 'parent', null);
    await add('Odo Quill', 'caregiver', '2021-01-01');
    const bundle = await search('RelatedPerson', { patient: `Patient/${patient}` });
    expect(faults(bundle)).toEqual([]);
    const people = resources<RelatedPerson>(bundle).filter(({ name }) => name?.[0].text?.endsWith('Quill'));
    expect(people.map(({ name, active }) => [name?.[0].text, active]).sort()).toEqual([
      ['Odo Quill', false],
      ['Renata Quill', true],
    ]);
    const [one] = people;
    expect(one.patient.reference).toBe(`Patient/${patient}`);
    expect(await client.read({ resourceType: 'RelatedPerson', id: one.id ?? '' })).toEqual(one);
    const nothing = await fetch(`${base}/RelatedPerson`, { headers: { cookie: desk.cookieHeader() } });
    expect(nothing.status).toBe(400);
  });

  it('reads requests to book: their state, urgency, window and who asked, and of restricted patients none', async () => {
    const { rows } = await world.sql.query<{ id: string }>(
      'select id from patient where not restricted order by id desc limit 1',
    );
    const [{ id: patient }] = rows;
    const ask = async (urgency: string, reason: string) =>
      dataOf(
        await desk.call(askRequest, {
          ...{ patientId: patient, visitTypeId: TYPES.follow, siteId: SITES.canal, providerId: PROVIDERS.amaya },
          ...{ fromDate: '2026-12-02', dueDate: '2026-12-18', reason, urgency },
        } as never),
      );
    await ask('urgent', 'Swelling came back');
    const gone = await ask('routine', 'Yearly look');
    const listed = dataOf(await desk.call(requestList, { booked: 'no' })).requests;
    const withdrawn = listed.find(({ reason }) => reason === 'Yearly look');
    dataOf(
      await desk.call(withdrawRequest, {
        ...{ id: withdrawn?.id, version: withdrawn?.version, because: 'Has moved away' },
      } as never),
    );
    expect(gone.undo.id).toBeTruthy();
    const bundle = await search('ServiceRequest', { patient: `Patient/${patient}` });
    expect(faults(bundle)).toEqual([]);
    const requests = resources<ServiceRequest>(bundle);
    expect(requests.map(({ status, priority, reasonCode }) => [status, priority, reasonCode?.[0].text]).sort()).toEqual(
      [
        ['active', 'urgent', 'Swelling came back'],
        ['revoked', 'routine', 'Yearly look'],
      ],
    );
    const one = requests.find(({ status }) => status === 'active') as ServiceRequest;
    expect(one).toMatchObject({
      ...{ intent: 'order', occurrencePeriod: { start: '2026-12-02', end: '2026-12-18' } },
      subject: { reference: `Patient/${patient}` },
      performer: [{ reference: `Practitioner/${PROVIDERS.amaya}` }],
      locationReference: [{ reference: `Location/${SITES.canal}` }],
    });
    expect(await client.read({ resourceType: 'ServiceRequest', id: one.id ?? '' })).toEqual(one);
    expect(resources(await search('ServiceRequest', { subject: patient, status: 'completed' }))).toEqual([]);
    expect(resources(await search('ServiceRequest', { subject: patient, authored: 'lt2020' }))).toEqual([]);
    await world.sql.query('update patient set restricted = true where id = $1', [patient]);
    const reader = await signedIn(world.servers[0].url, 'read-only');
    const hidden = await fetch(`${base}/ServiceRequest?patient=${patient}`, {
      headers: { cookie: reader.cookieHeader() },
    });
    expect(((await hidden.json()) as Bundle).total).toBe(0);
    await world.sql.query('update patient set restricted = false where id = $1', [patient]);
  });
});
