import { addDays, type LocalDate } from '@zaguan/core/time';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { ruleFrom, DEFAULT_RESOURCE } from '../defaults.ts';
import { PROVIDERS, ROOMS, SITES, WEEKDAYS } from './ids.ts';
import { insertRows } from '../rows.ts';
import { loadHours } from './hours.ts';
import { idOf } from '../random.ts';
import { loadVisitTypes } from './visitTypes.ts';

/** Brindlewood Allergy & Asthma, cut down to two sites in two zones, three providers, one room pool, three visit types. */
export async function loadClinic(orm: Orm, today: LocalDate): Promise<void> {
  const since = addDays(today, -365);
  const rule = ruleFrom(since);

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
  await insertRows(orm, 'resource', [
    {
      id: PROVIDERS.amaya,
      kind: 'provider',
      name: 'Dr. Inés Amaya',
      short_name: 'Dr. Amaya',
      home_site_id: SITES.canal,
      capabilities: ['treats-anaphylaxis'],
      sort_order: 1,
      ...DEFAULT_RESOURCE,
    },
    {
      id: PROVIDERS.lund,
      kind: 'provider',
      name: 'Teo Lund',
      short_name: 'Teo Lund',
      home_site_id: SITES.canal,
      capabilities: ['treats-anaphylaxis'],
      sort_order: 2,
      ...DEFAULT_RESOURCE,
    },
    {
      id: PROVIDERS.dray,
      kind: 'provider',
      name: 'Dr. Ruth Dray',
      short_name: 'Dr. Dray',
      home_site_id: SITES.mesa,
      capabilities: ['treats-anaphylaxis'],
      sort_order: 3,
      ...DEFAULT_RESOURCE,
    },
    ...ROOMS.map((id, i) => ({
      id,
      kind: 'room',
      name: `Skin-test room ${i + 1}`,
      short_name: `Skin room ${i + 1}`,
      home_site_id: SITES.canal,
      capabilities: [],
      sort_order: 10 + i,
      ...DEFAULT_RESOURCE,
    })),
  ]);
  await insertRows(orm, 'provider', [
    {
      resource_id: PROVIDERS.amaya,
      credentials: 'MD',
      specialty: 'Allergy and immunology',
      npi: '1234567893',
      languages: ['en', 'es'],
      accepts_new: true,
      bio_en: 'Sees adults and children. Speaks Spanish.',
      bio_es: 'Atiende a adultos y niños. Habla español.',
      public_name_es: 'Dra. Inés Amaya',
    },
    {
      resource_id: PROVIDERS.lund,
      credentials: 'NP',
      specialty: 'Asthma',
      npi: null,
      languages: ['en'],
      accepts_new: true,
      bio_en: 'Nurse practitioner; asthma reviews and follow-up.',
      bio_es: 'Enfermero especializado; revisiones de asma y seguimiento.',
      public_name_es: '',
    },
    {
      resource_id: PROVIDERS.dray,
      credentials: 'MD',
      specialty: 'Allergy and immunology',
      npi: null,
      languages: ['en'],
      accepts_new: true,
      bio_en: 'Sees children from two years.',
      bio_es: 'Atiende a niños desde los dos años.',
      public_name_es: 'Dra. Ruth Dray',
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
