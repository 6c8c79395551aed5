import type { Orm } from '@zaguan/server/platform/db/orm';
import { addDays, type LocalDate } from '@zaguan/core/time';
import { idOf } from './random.ts';

type Row = Record<string, unknown>;

/** Inserts rows as they stand; every demo table is filled in bulk. */
export async function insertRows(orm: Orm, table: string, rows: readonly Row[]): Promise<void> {
  if (!rows.length) return;
  const columns = Object.keys(rows[0]);
  const BATCH = 500;
  for (let i = 0; i < rows.length; i += BATCH) {
    await orm.em
      .getConnection()
      .execute(
        `insert into ${table} (${columns.join(', ')}) select ${columns.join(', ')} from json_populate_recordset(null::${table}, ?::json)`,
        [JSON.stringify(rows.slice(i, i + BATCH))],
      );
  }
}

export const SITES = { canal: idOf('Canal Row'), mesa: idOf('Mesa Court') };
export const PROVIDERS = { amaya: idOf('Amaya'), lund: idOf('Lund'), dray: idOf('Dray') };
export const TYPES = { consult: idOf('new consult'), follow: idOf('follow-up'), skin: idOf('skin test') };
const ROOMS = [idOf('skin room 1'), idOf('skin room 2')];

const WEEKDAYS = [1, 2, 3, 4, 5];

/** Brindlewood Allergy & Asthma, cut down to two sites in two zones, three providers, one room pool, three visit types. */
export async function loadClinic(orm: Orm, today: LocalDate): Promise<void> {
  const since = addDays(today, -365);
  const rule = (weekdays: number[], everyWeeks = 1) => ({
    weekdays,
    every_weeks: everyWeeks,
    anchor_date: since,
    effective_from: since,
    effective_until: null,
  });

  await insertRows(orm, 'clinic', [
    { only_row: true, name: 'Brindlewood Allergy & Asthma', phone: '(312) 555-0100', base_unit_min: 5 },
  ]);
  await insertRows(orm, 'site', [
    {
      id: SITES.canal,
      code: 'CR',
      name: 'Canal Row',
      public_name: 'Brindlewood at Canal Row',
      address_line: '14 Canal Row',
      city: 'Brindlewood',
      region: 'IL',
      postal_code: '60000',
      phone: '(312) 555-0101',
      email: 'canalrow@example.com',
      time_zone: 'America/Chicago',
      directions_en: 'The blue-green door beside the footbridge. Step-free from the towpath.',
      directions_es: 'La puerta verde azulada junto al puente peatonal. Sin escalones desde el camino del canal.',
      bookable_online: true,
      sort_order: 1,
    },
    {
      id: SITES.mesa,
      code: 'MC',
      name: 'Mesa Court',
      public_name: 'Brindlewood at Mesa Court',
      address_line: '3 Mesa Court, second floor',
      city: 'Piedra Alta',
      region: 'CO',
      postal_code: '80000',
      phone: '(720) 555-0102',
      email: 'mesacourt@example.com',
      time_zone: 'America/Denver',
      directions_en: 'Elevator at the back of the court. Parking in front.',
      directions_es: 'Elevador al fondo del patio. Estacionamiento al frente.',
      bookable_online: true,
      sort_order: 2,
    },
  ]);
  await insertRows(
    orm,
    'site_hours',
    Object.values(SITES).map((site) => ({
      id: idOf(`hours ${site}`),
      site_id: site,
      ...rule(WEEKDAYS),
      from_minute: 450,
      to_minute: 1050,
    })),
  );
  await insertRows(orm, 'site_travel', [
    { from_site_id: SITES.canal, to_site_id: SITES.mesa, minutes: 720 },
    { from_site_id: SITES.mesa, to_site_id: SITES.canal, minutes: 720 },
  ]);
  await loadResources(orm);
  await loadVisitTypes(orm);
  await loadHours(orm, today, rule);
}

async function loadResources(orm: Orm): Promise<void> {
  const base = {
    bookable_online: true,
    shown_in_daybook: true,
    left_out_of_messages: false,
    single_device: false,
    active: true,
  };
  await insertRows(orm, 'resource', [
    {
      id: PROVIDERS.amaya,
      kind: 'provider',
      name: 'Dr. Inés Amaya',
      short_name: 'Dr. Amaya',
      home_site_id: SITES.canal,
      capabilities: ['treats-anaphylaxis'],
      sort_order: 1,
      ...base,
    },
    {
      id: PROVIDERS.lund,
      kind: 'provider',
      name: 'Teo Lund',
      short_name: 'Teo Lund',
      home_site_id: SITES.canal,
      capabilities: ['treats-anaphylaxis'],
      sort_order: 2,
      ...base,
    },
    {
      id: PROVIDERS.dray,
      kind: 'provider',
      name: 'Dr. Ruth Dray',
      short_name: 'Dr. Dray',
      home_site_id: SITES.mesa,
      capabilities: ['treats-anaphylaxis'],
      sort_order: 3,
      ...base,
    },
    ...ROOMS.map((id, i) => ({
      id,
      kind: 'room',
      name: `Skin-test room ${i + 1}`,
      short_name: `Skin room ${i + 1}`,
      home_site_id: SITES.canal,
      capabilities: [],
      sort_order: 10 + i,
      ...base,
    })),
  ]);
  await insertRows(orm, 'provider', [
    {
      resource_id: PROVIDERS.amaya,
      credentials: 'MD',
      specialty: 'Allergy and immunology',
      npi: '1234567893',
      licence: null,
      languages: ['en', 'es'],
      accepts_new: true,
      bio_en: 'Sees adults and children. Speaks Spanish.',
      bio_es: 'Atiende a adultos y niños. Habla español.',
      home_room_id: null,
    },
    {
      resource_id: PROVIDERS.lund,
      credentials: 'NP',
      specialty: 'Asthma',
      npi: null,
      licence: null,
      languages: ['en'],
      accepts_new: true,
      bio_en: 'Nurse practitioner; asthma reviews and follow-up.',
      bio_es: 'Enfermero especializado; revisiones de asma y seguimiento.',
      home_room_id: null,
    },
    {
      resource_id: PROVIDERS.dray,
      credentials: 'MD',
      specialty: 'Allergy and immunology',
      npi: null,
      licence: null,
      languages: ['en'],
      accepts_new: true,
      bio_en: 'Sees children from two years.',
      bio_es: 'Atiende a niños desde los dos años.',
      home_room_id: null,
    },
  ]);
  await insertRows(
    orm,
    'resource_site',
    [
      [PROVIDERS.amaya, SITES.canal],
      [PROVIDERS.lund, SITES.canal],
      [PROVIDERS.lund, SITES.mesa],
      [PROVIDERS.dray, SITES.mesa],
      ...ROOMS.map((room) => [room, SITES.canal]),
    ].map(([resource_id, site_id]) => ({ resource_id, site_id })),
  );
  await insertRows(orm, 'pool', [
    {
      id: idOf('skin rooms'),
      site_id: SITES.canal,
      kind: 'skin-test-room',
      name: 'Skin-test rooms',
      shown_in_daybook: true,
      sort_order: 1,
    },
  ]);
  await insertRows(
    orm,
    'pool_member',
    ROOMS.map((resource_id, i) => ({ pool_id: idOf('skin rooms'), resource_id, number: i + 1 })),
  );
}

async function loadVisitTypes(orm: Orm): Promise<void> {
  const base = { mode: 'in-person', active: true };
  await insertRows(orm, 'visit_type', [
    {
      id: TYPES.follow,
      code: 'follow-up',
      name: 'Follow-up',
      public_name_en: 'Follow-up visit',
      public_name_es: 'Visita de seguimiento',
      description_en: 'For people we already treat: results, symptoms, medicines.',
      description_es: 'Para personas que ya atendemos: resultados, síntomas, medicinas.',
      colour: 'plum',
      before_min: 0,
      after_min: 0,
      sort_order: 1,
      ...base,
    },
    {
      id: TYPES.consult,
      code: 'new-consult',
      name: 'New allergy consult',
      public_name_en: 'First allergy visit',
      public_name_es: 'Primera visita de alergia',
      description_en: 'A full hour to get to know you. Bring a list of your medicines.',
      description_es: 'Una hora completa para conocerle. Traiga una lista de sus medicinas.',
      colour: 'clay',
      before_min: 0,
      after_min: 5,
      sort_order: 2,
      ...base,
    },
    {
      id: TYPES.skin,
      code: 'skin-test',
      name: 'Skin-prick test',
      public_name_en: 'Skin-prick test',
      public_name_es: 'Prueba cutánea',
      description_en:
        'About an hour in one room. Antihistamines must be stopped some days before: call us if you are not sure.',
      description_es:
        'Cerca de una hora en una misma sala. Hay que dejar los antihistamínicos unos días antes: llámenos si no está seguro.',
      colour: 'ochre',
      before_min: 0,
      after_min: 0,
      sort_order: 3,
      ...base,
    },
  ]);
  const part = (type: string, position: number, length_min: number, name: string) => ({
    id: idOf(`${type} part ${position}`),
    visit_type_id: type,
    position,
    name,
    length_min,
  });
  await insertRows(orm, 'visit_type_part', [
    part(TYPES.follow, 1, 20, 'Visit'),
    part(TYPES.consult, 1, 60, 'Visit'),
    part(TYPES.skin, 1, 20, 'Test'),
    part(TYPES.skin, 2, 20, 'Wait'),
    part(TYPES.skin, 3, 15, 'Reading'),
  ]);
  const need = (type: string, position: number, key: string, what: string, extra: Row = {}) => ({
    id: idOf(`${type} need ${key}`),
    visit_type_id: type,
    part_id: idOf(`${type} part ${position}`),
    key,
    what,
    resource_id: null,
    pool_kind: null,
    capability: null,
    same_as: null,
    different_from: null,
    turnaround_min: 0,
    ...extra,
  });
  const room = { pool_kind: 'skin-test-room' };
  await insertRows(orm, 'visit_type_need', [
    need(TYPES.follow, 1, 'provider', 'provider'),
    need(TYPES.consult, 1, 'provider', 'provider'),
    need(TYPES.skin, 1, 'room', 'pool', room),
    need(TYPES.skin, 1, 'able-1', 'present', { capability: 'treats-anaphylaxis' }),
  ]);
  await insertRows(orm, 'visit_type_need', [
    need(TYPES.skin, 2, 'room-wait', 'pool', { ...room, same_as: 'room' }),
    need(TYPES.skin, 2, 'able-2', 'present', { capability: 'treats-anaphylaxis' }),
    need(TYPES.skin, 3, 'room-reading', 'pool', { ...room, same_as: 'room', turnaround_min: 5 }),
    need(TYPES.skin, 3, 'reader', 'provider'),
  ]);
  await insertRows(orm, 'visit_type_site', [{ visit_type_id: TYPES.skin, site_id: SITES.canal }]);
  await insertRows(orm, 'visit_type_provider', [
    ...Object.values(PROVIDERS).map((provider_id) => ({ visit_type_id: TYPES.follow, provider_id })),
    ...[PROVIDERS.amaya, PROVIDERS.dray].map((provider_id) => ({ visit_type_id: TYPES.consult, provider_id })),
    ...[PROVIDERS.amaya, PROVIDERS.lund].map((provider_id) => ({ visit_type_id: TYPES.skin, provider_id })),
  ]);
  const policy = {
    site_id: null,
    provider_id: null,
    offered: true,
    kinds: null,
    lead_min: null,
    lead_working_days: null,
    lead_by_minute: null,
    window_days: 90,
    grid_min: 10,
    approval: null,
    show_length: true,
    show_photo: null,
  };
  await insertRows(orm, 'online_policy', [
    {
      ...policy,
      id: idOf('policy follow'),
      visit_type_id: TYPES.follow,
      kinds: ['established'],
      lead_min: 120,
      grid_min: 10,
    },
    {
      ...policy,
      id: idOf('policy consult'),
      visit_type_id: TYPES.consult,
      kinds: ['new'],
      lead_working_days: 1,
      lead_by_minute: 1020,
      window_days: 120,
      grid_min: 20,
    },
    { ...policy, id: idOf('policy skin'), visit_type_id: TYPES.skin, lead_min: 1440, grid_min: 10 },
  ]);
  await insertRows(orm, 'booking_cap', [
    {
      id: idOf('cap consult'),
      bucket: 'provider-type-day',
      provider_id: null,
      site_id: null,
      visit_type_id: TYPES.consult,
      most: 3,
    },
  ]);
}

async function loadHours(
  orm: Orm,
  today: LocalDate,
  rule: (weekdays: number[], everyWeeks?: number) => Row,
): Promise<void> {
  const hours = (
    name: string,
    resource_id: string,
    site_id: string,
    weekdays: number[],
    from: number,
    to: number,
    extra: Row = {},
  ) => ({
    id: idOf(`session ${name}`),
    resource_id,
    pool_id: null,
    site_id,
    ...rule(weekdays),
    from_minute: from,
    to_minute: to,
    accepts_type_ids: null,
    accepts_kinds: null,
    invited_only: false,
    online: true,
    places: 1,
    follows_site_hours: false,
    preferred_room_ids: [],
    release_before_min: null,
    release_type_ids: null,
    release_kinds: null,
    release_invited_only: false,
    release_online: true,
    caps: [],
    version: 1,
    created_at: `${addDays(today, -200)}T12:00:00Z`,
    created_by: null,
    ...extra,
  });
  await insertRows(orm, 'working_hours', [
    hours('amaya am', PROVIDERS.amaya, SITES.canal, WEEKDAYS, 480, 720),
    // New patients only in the early afternoon; two days before, whatever is left is open to all.
    hours('amaya pm', PROVIDERS.amaya, SITES.canal, [1, 2, 3, 4], 780, 1020, {
      accepts_kinds: ['new'],
      release_before_min: 2880,
      release_kinds: null,
    }),
    hours('lund canal am', PROVIDERS.lund, SITES.canal, [1, 2, 5], 480, 720, { online: false }),
    hours('lund canal pm', PROVIDERS.lund, SITES.canal, [1, 2, 5], 780, 1020, { accepts_kinds: ['established'] }),
    hours('lund mesa', PROVIDERS.lund, SITES.mesa, [3, 4], 480, 960),
    hours('dray am', PROVIDERS.dray, SITES.mesa, WEEKDAYS, 480, 720),
    hours('dray pm', PROVIDERS.dray, SITES.mesa, [1, 2, 3, 4], 780, 1020, { online: false }),
  ]);
  await insertRows(orm, 'kept_free', [
    {
      id: idOf('kept dray'),
      resource_id: PROVIDERS.dray,
      site_id: null,
      ...rule(WEEKDAYS),
      from_minute: 600,
      to_minute: 615,
      note: 'Phone calls',
    },
  ]);
  await insertRows(orm, 'time_off', [
    {
      id: idOf('off lund'),
      resource_id: PROVIDERS.lund,
      site_id: null,
      start_date: addDays(today, 14),
      start_minute: 0,
      end_date: addDays(today, 16),
      end_minute: 1440,
      reason: 'Training',
      status: 'approved',
    },
  ]);
}
