import { randomUUID } from 'node:crypto';
import * as setup from '@zaguan/contracts/setup';
import { undo } from '@zaguan/contracts/undo';
import { signIn } from '@zaguan/contracts/accounts';
import { publicVisitTypes } from '@zaguan/contracts/clinic';
import { publicDays } from '@zaguan/contracts/openings';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PROVIDERS, SITES, TYPES } from '../../../demo/src/excerpt/ids.ts';
import { Client, dataOf, refusalOf, signedIn } from '../fixtures/client.ts';
import { bookedVisit } from '../fixtures/patient.ts';
import { makeWorld, type World } from '../fixtures/world.ts';

const KINDS = [
  setup.clinic,
  setup.sites,
  setup.people,
  setup.places,
  setup.pools,
  setup.visitTypes,
  setup.payers,
  setup.fields,
  setup.accounts,
] as const;

describe('how the clinic is set up', () => {
  let world: World;
  let base: string;
  let manager: Client;
  beforeAll(async () => {
    world = await makeWorld('setup');
    base = world.servers[0].url;
    manager = await signedIn(base, 'manager');
  });
  afterAll(() => world.close());

  const sites = async () => dataOf(await manager.call(setup.sites.list, {})).records;
  const site = async (id: string) =>
    (await sites()).find((row) => row.id === id) as Awaited<ReturnType<typeof sites>>[number];
  const types = async () => dataOf(await manager.call(setup.visitTypes.list, {})).records;
  const type = async (id: string) =>
    (await types()).find((row) => row.id === id) as Awaited<ReturnType<typeof types>>[number];
  const codesOf = (answer: Parameters<typeof refusalOf>[0]) =>
    refusalOf(answer).issues?.map(({ path, code }) => `${path} ${code}`);

  it.each(KINDS.map((kind) => ({ name: kind.kind, kind })))(
    'keeps its own rules in what is loaded, and writes nothing where nothing changed: $name',
    async ({ kind }) => {
      const { records } = dataOf(await manager.call(kind.list, {}));
      if (!records.length) return;
      const saved = dataOf(
        await manager.call(kind.save, {
          records: records.map(({ id, version, doc }) => ({ id, version, doc })),
        } as never),
      );
      expect(saved.records.map(({ id, version, doc }) => ({ id, version, doc }))).toEqual(
        records.map(({ id, version, doc }) => ({ id, version, doc })),
      );
    },
  );

  it('saves a site with all that belongs to it, and undoes it to the last line', async () => {
    const { id, version, doc } = await site(SITES.mesa);
    const changed = {
      ...doc,
      publicName: 'Brindlewood on the Mesa',
      morePhones: [{ label: 'Fax', phone: '(720) 555-0199' }],
      latitude: 39.7,
      longitude: -104.9,
      hours: [
        {
          weekdays: [1, 2, 3, 4, 5] as const,
          fromMinute: 480,
          toMinute: 720,
          everyWeeks: 1,
          effectiveFrom: '2026-01-01',
          effectiveUntil: null,
        },
        {
          weekdays: [1, 2, 3, 4, 5] as const,
          fromMinute: 780,
          toMinute: 1020,
          everyWeeks: 1,
          effectiveFrom: '2026-01-01',
          effectiveUntil: '2027-06-30',
        },
      ],
      closures: [
        ...doc.closures,
        {
          startDate: '2026-12-24',
          startMinute: 720,
          endDate: '2026-12-24',
          endMinute: 1440,
          reason: 'Eve',
          uid: 'eve@example.com',
        },
      ].sort((a, b) => (a.startDate < b.startDate ? -1 : 1)),
    };
    const saved = dataOf(await manager.call(setup.sites.save, { records: [{ id, version, doc: changed as never }] }));
    expect(saved.records[0]).toMatchObject({ version: version + 1, changedBy: 'Noor Haddad', doc: changed });
    // The same call again, as after a lost line, changes nothing.
    const again = dataOf(await manager.call(setup.sites.save, { records: [{ id, version, doc: changed as never }] }));
    expect(again.records[0].version).toBe(version + 1);
    dataOf(await manager.call(undo, { id: saved.undo.id }));
    expect((await site(SITES.mesa)).doc).toEqual(doc);
    const { rows } = await world.sql.query(
      `select count(*)::int as n from audit_entry where command in ('setup.site.save','undo.run') and subjects @> $1`,
      [JSON.stringify([{ kind: 'site', id }])],
    );
    expect(rows[0].n).toBe(2);
  });

  it('lets nobody overwrite what somebody else saved, and says who', async () => {
    const { id, version, doc } = await site(SITES.canal);
    const other = await signedIn(base, 'coordinator');
    dataOf(
      await other.call(setup.sites.save, { records: [{ id, version, doc: { ...doc, phone: '(312) 555-0111' } }] }),
    );
    const refused = refusalOf(
      await manager.call(setup.sites.save, { records: [{ id, version, doc: { ...doc, city: 'Elsewhere' } }] }),
    );
    expect(refused).toMatchObject({ tag: 'ChangedMeanwhile', facts: { by: 'Ines Kessler', version: version + 1 } });
    expect((await site(SITES.canal)).doc).toMatchObject({ phone: '(312) 555-0111', city: doc.city });
    // Undoing after someone else changed it is refused too.
    const mine = await site(SITES.canal);
    const saved = dataOf(
      await manager.call(setup.sites.save, {
        records: [{ id, version: mine.version, doc: { ...mine.doc, city: 'Brindle' } }],
      }),
    );
    const next = await site(SITES.canal);
    dataOf(
      await other.call(setup.sites.save, {
        records: [{ id, version: next.version, doc: { ...next.doc, phone: doc.phone } }],
      }),
    );
    expect(refusalOf(await manager.call(undo, { id: saved.undo.id })).tag).toBe('ChangedMeanwhile');
  });

  it('refuses an NPI with one wrong digit, at its field, and one that somebody has', async () => {
    const { records } = dataOf(await manager.call(setup.people.list, {}));
    const [one, two] = records.filter(({ doc }) => doc.kind === 'provider');
    const save = (npi: string) =>
      manager.call(setup.people.save, { records: [{ id: two.id, version: two.version, doc: { ...two.doc, npi } }] });
    expect(codesOf(await save('1234567894'))).toEqual(['records.0.doc.npi npi-check-digit']);
    expect(one.doc.npi).toBe('1234567893');
    expect(refusalOf(await save('1234567893'))).toMatchObject({
      tag: 'SetupRefused',
      issues: [{ path: 'records.0.doc.npi', code: 'npi-taken' }],
      facts: { holder: one.doc.name },
    });
  });

  it('archives nothing that visits hang on, and brings back what it archived', async () => {
    await bookedVisit(base, 0);
    for (const [kind, id, code] of [
      [setup.people, PROVIDERS.amaya, 'person-in-use'],
      [setup.sites, SITES.canal, 'site-in-use'],
      [setup.visitTypes, TYPES.follow, 'type-in-use'],
    ] as const) {
      const refused = refusalOf(await manager.call(kind.archive, { ids: [id], active: false }));
      expect(refused.issues?.[0].code).toBe(code);
      expect(Number(refused.facts.visits)).toBeGreaterThan(0);
    }
    const id = randomUUID();
    const place = { ...(await place0()), name: 'Spare room', shortName: 'Spare', poolId: null };
    dataOf(await manager.call(setup.places.save, { records: [{ id, version: 0, doc: place }] }));
    const done = dataOf(await manager.call(setup.places.archive, { ids: [id], active: false }));
    const active = async () =>
      dataOf(await manager.call(setup.places.list, {})).records.find((row) => row.id === id)?.active;
    expect(await active()).toBe(false);
    dataOf(await manager.call(undo, { id: done.undo.id }));
    expect(await active()).toBe(true);
  });

  const place0 = async () => dataOf(await manager.call(setup.places.list, {})).records[0].doc;

  it('lowers no pool below what is booked out of it', async () => {
    const { records } = dataOf(await manager.call(setup.pools.list, {}));
    const { rows } = await world.sql.query<{ pool: string; member: string }>(
      `select p.id as pool, o.resource_id as member from occupancy o join appointment a on a.id = o.appointment_id
         join visit_type_need n on n.visit_type_id = a.visit_type_id and n.key = o.need_key join pool p on p.kind = n.pool_kind and p.site_id = a.site_id
       where a.starts_at > '2026-12-02' limit 1`,
    );
    const pool = records.find(({ id }) => id === rows[0].pool) as (typeof records)[number];
    const memberIds = pool.doc.memberIds.filter((member) => member !== rows[0].member);
    expect(memberIds.length).toBe(pool.doc.memberIds.length - 1);
    const refused = refusalOf(
      await manager.call(setup.pools.save, {
        records: [{ id: pool.id, version: pool.version, doc: { ...pool.doc, memberIds } }],
      }),
    );
    expect(refused.issues).toEqual([{ path: 'records.0.doc.memberIds', code: 'member-in-use' }]);
  });

  it('refuses parts that need two of one, a type longer than any hours, and names missing in a language', async () => {
    const { doc } = await type(TYPES.skin);
    const make = (change: object) =>
      manager.call(setup.visitTypes.save, {
        records: [{ id: randomUUID(), version: 0, doc: { ...doc, code: 'other', name: 'Other', ...change } as never }],
      });
    const [part] = doc.parts;
    const room = part.needs.find(({ what }) => what === 'pool') as (typeof part.needs)[number];
    const many = Array.from({ length: 9 }, (_, i) => ({ ...room, key: `room-${i}`, sameAs: null }));
    expect(codesOf(await make({ parts: [{ ...part, needs: many }] }))?.join()).toMatch(
      /parts\.0\.needs\.\d needs-more-than-there-are/,
    );
    expect(
      codesOf(
        await make({
          parts: [{ ...part, lengthMin: 720, needs: [{ ...room, key: 'doctor', what: 'provider', poolKind: null }] }],
        }),
      ),
    ).toEqual(['records.0.doc.parts longer-than-any-hours']);
    expect(codesOf(await make({ publicNameEs: ' ' }))).toEqual(['records.0.doc.publicNameEs needed']);
    expect(codesOf(await make({ parts: [] }))).toEqual(['records.0.doc.parts no-part']);
    expect(codesOf(await make({ name: (await type(TYPES.follow)).doc.name }))).toEqual(['records.0.doc.name taken']);
  });

  it('asks before a site’s zone changes with visits booked, and keeps the clock or the moment as agreed', async () => {
    const { id, version, doc } = await site(SITES.canal);
    const told = await bookedVisit(world.servers[0].url, 5);
    // 1:30 of the night in which clocks go back comes twice: the first of the two stays the first (RFC 5545, 3.3.5).
    const night = await bookedVisit(world.servers[0].url, 6);
    await world.sql.query(
      `update appointment set starts_at = '2027-11-07T06:30:00Z', ends_at = '2027-11-07T06:50:00Z', provider_starts_at = '2027-11-07T06:30:00Z', provider_ends_at = '2027-11-07T06:50:00Z', site_date = '2027-11-07' where id = $1`,
      [night.id],
    );
    await world.sql.query(
      `update occupancy set during = tstzrange('2027-11-07T06:30:00Z', '2027-11-07T06:50:00Z') where appointment_id = $1`,
      [night.id],
    );
    const save = (agreed: string[]) =>
      manager.call(setup.sites.save, {
        records: [{ id, version, doc: { ...doc, timeZone: 'America/New_York' } }],
        agreed,
      });
    const refused = refusalOf(await save([]));
    expect(refused).toMatchObject({
      tag: 'AgreementNeeded',
      codes: ['zone-change'],
      facts: { to: 'America/New_York' },
    });
    const before = await starts(id);
    // Today's visits that are over move too, and are not counted among those to agree about.
    expect(before.length).toBeGreaterThan(Number(refused.facts.visits));
    expect(Number(refused.facts.visits)).toBeGreaterThan(0);
    const saved = dataOf(await save(['zone-change:keep-clock']));
    // What waits to be sent about a visit to come was planned for another instant.
    const withdrawn = "select 1 from message where appointment_id = $1 and kind = 'reminder' and status = 'withdrawn'";
    expect((await world.sql.query(withdrawn, [told.id])).rows.length).toBeGreaterThan(0);
    const after = await starts(id);
    expect(after.map(({ at }) => at - 0)).toEqual(before.map(({ at }) => at - 3_600_000));
    // What they take moved with them, row by row.
    expect(after.map(({ taken }) => taken)).toEqual(before.map(({ taken }) => taken - 3_600_000));
    dataOf(await manager.call(undo, { id: saved.undo.id }));
    expect(await starts(id)).toEqual(before);
    const moved = await site(SITES.canal);
    dataOf(
      await manager.call(setup.sites.save, {
        records: [{ id, version: moved.version, doc: { ...doc, timeZone: 'America/New_York' } }],
        agreed: ['zone-change:keep-instant', 'visits-to-move'],
      }),
    );
    expect(await starts(id)).toEqual(before);
    const back = await site(SITES.canal);
    dataOf(
      await manager.call(setup.sites.save, {
        records: [{ id, version: back.version, doc }],
        agreed: ['zone-change:keep-instant', 'visits-to-move'],
      }),
    );
  });

  const starts = async (id: string) =>
    (
      await world.sql.query<{ at: Date; taken: Date }>(
        `select a.starts_at as at, min(lower(o.during)) as taken from appointment a join occupancy o on o.appointment_id = a.id
         where a.site_id = $1 and a.site_date >= '2026-12-01' and a.status not in ('cancelled','entered-in-error')
         group by a.id order by a.id`,
        [id],
      )
    ).rows.map(({ at, taken }) => ({ at: at.getTime(), taken: taken.getTime() }));

  it('judges the records of one call with those before them: neither twins nor both last managers get through', async () => {
    const { doc } = await site(SITES.mesa);
    const twin = (name: string, code: string) => ({ id: randomUUID(), version: 0, doc: { ...doc, name, code } });
    const twins = await manager.call(setup.sites.save, { records: [twin('North', 'TWIN'), twin('South', 'TWIN')] });
    expect(codesOf(twins)).toEqual(['records.1.doc.code taken']);
    expect((await sites()).map(({ doc }) => doc.code)).not.toContain('TWIN');
    const email = 'twin@example.com';
    const account = { name: 'Twin', email, role: 'read-only' as const, resourceId: null, siteIds: null };
    const accounts = await manager.call(setup.accounts.save, {
      records: [0, 1].map(() => ({ id: randomUUID(), version: 0, doc: account })),
    });
    expect(codesOf(accounts)).toEqual(['records.1.doc.email taken']);
  });

  it('gives back in one undo what one gave up and the next one took', async () => {
    const [one, two] = [await site(SITES.canal), await site(SITES.mesa)];
    const saved = dataOf(
      await manager.call(setup.sites.save, {
        records: [
          { ...pick(one), doc: { ...one.doc, code: 'MOVED' } },
          { ...pick(two), doc: { ...two.doc, code: one.doc.code } },
        ],
      }),
    );
    dataOf(await manager.call(undo, { id: saved.undo.id }));
    expect([(await site(SITES.canal)).doc.code, (await site(SITES.mesa)).doc.code]).toEqual([
      one.doc.code,
      two.doc.code,
    ]);
  });

  it('keeps one of two managers who would go together, by role or into the archive', async () => {
    await world.sql.query(`update account set role = 'manager' where role in ('front-desk', 'read-only')`);
    const { records } = dataOf(await manager.call(setup.accounts.list, {}));
    const managers = records.filter(({ doc }) => doc.role === 'manager');
    expect(managers.length).toBe(3);
    const demoted = await manager.call(setup.accounts.save, {
      records: managers.map((each) => ({ ...pick(each), doc: { ...each.doc, role: 'read-only' as const } })),
    });
    expect(codesOf(demoted)).toEqual(['records.2.doc.role last-manager']);
    const after = dataOf(await manager.call(setup.accounts.list, {})).records;
    expect(after.filter(({ doc }) => doc.role === 'manager')).toHaveLength(3);
    await world.sql.query(`update account set role = 'read-only' where email = 'pat@example.com'`);
    await world.sql.query(`update account set role = 'front-desk' where email = 'bo@example.com'`);
  });

  it('keeps the last manager, and ends the sessions of an account whose role changes', async () => {
    const { records } = dataOf(await manager.call(setup.accounts.list, {}));
    const noor = records.find(({ doc }) => doc.role === 'manager') as (typeof records)[number];
    const demote = (record: (typeof records)[number], role: string) =>
      manager.call(setup.accounts.save, {
        records: [{ id: record.id, version: record.version, doc: { ...record.doc, role } as never }],
      });
    expect(refusalOf(await demote(noor, 'read-only')).issues).toEqual([
      { path: 'records.0.doc.role', code: 'last-manager' },
    ]);
    expect(
      refusalOf(await manager.call(setup.accounts.archive, { ids: [noor.id], active: false })).issues?.[0].code,
    ).toBe('own-account');
    const reader = await signedIn(base, 'read-only');
    const pat = records.find(({ doc }) => doc.role === 'read-only') as (typeof records)[number];
    dataOf(await demote(pat, 'front-desk'));
    expect(refusalOf(await reader.call(setup.setupGuide, {})).tag).toBe('NotSignedIn');
    const coordinator = await signedIn(base, 'coordinator');
    expect(refusalOf(await coordinator.call(setup.accounts.list, {})).tag).toBe('NotAllowed');
  });

  it('invites someone by a link that works once, keeps only its hash, and asks for a long password', async () => {
    const id = randomUUID();
    const doc = {
      name: 'Robin Vale',
      email: 'Robin@example.com',
      role: 'coordinator' as const,
      resourceId: null,
      siteIds: null,
    };
    const saved = dataOf(await manager.call(setup.accounts.save, { records: [{ id, version: 0, doc }] }));
    expect(saved.records[0].doc).toMatchObject({ email: 'robin@example.com', state: 'invited' });
    const first = dataOf(await manager.call(setup.inviteAccount, { id })).link.split('#')[1];
    const token = dataOf(await manager.call(setup.inviteAccount, { id })).link.split('#')[1];
    const guest = new Client(base);
    expect(refusalOf(await guest.call(setup.readInvitation, { token: first })).tag).toBe('LinkGone');
    expect(dataOf(await guest.call(setup.readInvitation, { token }))).toMatchObject({
      name: 'Robin Vale',
      role: 'coordinator',
    });
    const { rows } = await world.sql.query(`select * from account where id = $1`, [id]);
    expect(JSON.stringify(rows[0])).not.toContain(token);
    const accept = (password: string) => guest.call(setup.acceptInvitation, { token, password });
    expect(codesOf(await accept('too short'))).toEqual(['password password-short']);
    dataOf(await accept('a door stands open in the morning'));
    expect(refusalOf(await accept('a door stands open in the morning')).tag).toBe('LinkGone');
    dataOf(await guest.call(signIn, { email: 'robin@example.com', password: 'a door stands open in the morning' }));
    expect(world.servers[0].log()).not.toContain(token);
  });

  it('turns online booking on for sites, providers and types in one act, and back', async () => {
    const criteria = { siteId: SITES.mesa, kind: 'established' as const };
    const patient = new Client(base);
    const offered = async () =>
      dataOf(await patient.call(publicVisitTypes, { ...criteria, language: 'en' })).visitTypes.some(
        ({ id }) => id === TYPES.follow,
      );
    const { id, version, doc } = await type(TYPES.follow);
    dataOf(await manager.call(setup.visitTypes.save, { records: [{ id, version, doc: { ...doc, policies: [] } }] }));
    expect(await offered()).toBe(false);
    const opened = dataOf(
      await manager.call(setup.openOnline, {
        siteIds: [SITES.mesa],
        providerIds: [PROVIDERS.dray],
        visitTypeIds: [TYPES.follow],
      }),
    );
    expect(opened.gained).toBeGreaterThan(0);
    expect(await offered()).toBe(true);
    const days = dataOf(await patient.call(publicDays, { ...criteria, visitTypeId: TYPES.follow }));
    expect(days.first?.providerId).toBe(PROVIDERS.dray);
    dataOf(await manager.call(undo, { id: opened.undo.id }));
    expect(await offered()).toBe(false);
  });

  it('says in the guide who is bookable and what is in the way, as the search has it', async () => {
    const guide = dataOf(await manager.call(setup.setupGuide, {}));
    expect(guide.steps.map(({ step }) => step)).toEqual([...setup.GUIDE_STEPS]);
    const person = async (id: string) =>
      dataOf(await manager.call(setup.people.list, {})).records.find((row) => row.id === id) as never as {
        id: string;
        version: number;
        doc: setup.PersonDoc;
      };
    const dray = await person(PROVIDERS.dray);
    dataOf(
      await manager.call(setup.people.save, {
        records: [{ ...pick(dray), doc: { ...dray.doc, bookableOnline: false } }],
      }),
    );
    const off = dataOf(await manager.call(setup.setupGuide, {})).notOnline.find((row) => row.id === dray.id);
    expect(off).toMatchObject({ code: 'switched-off', field: 'bookableOnline' });
    const again = await person(PROVIDERS.dray);
    dataOf(
      await manager.call(setup.people.save, {
        records: [{ ...pick(again), doc: { ...again.doc, bookableOnline: true } }],
      }),
    );
    await world.sql.query(`update working_hours set effective_until = '2026-12-04' where resource_id = $1`, [
      PROVIDERS.dray,
    ]);
    await world.sql.query(
      `insert into time_off (id, resource_id, start_date, end_date) values (gen_random_uuid(), $1, '2026-12-01', '2026-12-04')`,
      [PROVIDERS.dray],
    );
    const ended = dataOf(await manager.call(setup.setupGuide, {})).notOnline.find((row) => row.id === dray.id);
    expect(ended).toMatchObject({ code: 'hours-end', facts: { site: 'Mesa Court', date: '2026-12-04' } });
  });

  const pick = ({ id, version }: { id: string; version: number }) => ({ id, version });

  it('counts start times and places of a draft without saving anything', async () => {
    const { doc } = await type(TYPES.consult);
    const before = await types();
    const preview = dataOf(
      await manager.call(setup.previewVisitType, { id: randomUUID(), doc: { ...doc, code: 'draft', name: 'Draft' } }),
    );
    expect(preview.from).toBe('2026-12-07');
    const canal = preview.sites.find(({ siteId }) => siteId === SITES.canal);
    expect(canal?.starts).toBeGreaterThan(0);
    expect(canal?.places).toBeGreaterThan(0);
    expect(canal?.places).toBeLessThanOrEqual(canal?.starts ?? 0);
    expect(await types()).toEqual(before);
    const seen = dataOf(await manager.call(setup.previewOnline, { id: TYPES.consult, doc }));
    const patient = new Client(base);
    for (const row of seen.rows.filter(({ siteId }) => siteId === SITES.canal)) {
      const days = dataOf(
        await patient.call(publicDays, { siteId: row.siteId, visitTypeId: TYPES.consult, kind: row.kind }),
      );
      expect([row.kind, row.first]).toEqual([row.kind, days.first?.start ?? null]);
    }
  });

  it('reads closures out of a calendar file, names what it can’t read, and refuses what is no calendar or too large', async () => {
    const calendar = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'PRODID:-//example//EN',
      'BEGIN:VEVENT',
      'UID:a@example.com',
      'DTSTART;VALUE=DATE:20261224',
      'DTEND;VALUE=DATE:20261227',
      'SUMMARY:Winter break',
      'END:VEVENT',
      'BEGIN:VEVENT',
      'UID:b@example.com',
      'DTSTART;TZID=Mars/Olympus:20261210T120000',
      'DTEND;TZID=Mars/Olympus:20261210T130000',
      'SUMMARY:Staff meeting',
      'END:VEVENT',
      'END:VCALENDAR',
    ].join('\r\n');
    const read = (text: string) => manager.call(setup.readClosures, { timeZone: 'America/Denver', calendar: text });
    const { closures, refused } = dataOf(await read(calendar));
    expect(closures).toEqual([
      {
        startDate: '2026-12-24',
        startMinute: 0,
        endDate: '2026-12-26',
        endMinute: 1440,
        reason: 'Winter break',
        uid: 'a@example.com',
      },
    ]);
    expect(refused).toEqual([{ at: 2, summary: 'Staff meeting', code: 'unknown-zone', detail: 'Mars/Olympus' }]);
    expect(codesOf(await read('hello'))).toEqual(['calendar not-a-calendar']);
    expect(codesOf(await read('x'.repeat(1_020_000)))).toEqual(['calendar calendar-too-large']);
    expect(codesOf(await read('x'.repeat(10_000_000)))).toEqual([' too-large']);
  });
});
