import type { Orm } from '@zaguan/server/platform/db/orm';
import { PROVIDERS, SITES, TYPES } from './ids.ts';
import { insertRows, type Row } from '../rows.ts';
import { DEFAULT_POLICY } from '../defaults.ts';
import { idOf } from '../random.ts';

/** Three visit types, one of them with parts, with their online rules. */
export async function loadVisitTypes(orm: Orm): Promise<void> {
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
      color: 'plum',
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
      color: 'clay',
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
      color: 'ochre',
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
  await insertRows(orm, 'online_policy', [
    {
      ...DEFAULT_POLICY,
      id: idOf('policy follow'),
      visit_type_id: TYPES.follow,
      kinds: ['established'],
      lead_min: 120,
      grid_min: 10,
    },
    {
      ...DEFAULT_POLICY,
      id: idOf('policy consult'),
      visit_type_id: TYPES.consult,
      kinds: ['new'],
      lead_working_days: 1,
      lead_by_minute: 1020,
      window_days: 120,
      grid_min: 20,
    },
    { ...DEFAULT_POLICY, id: idOf('policy skin'), visit_type_id: TYPES.skin, lead_min: 1440, grid_min: 10 },
  ]);
  await insertRows(orm, 'booking_cap', [
    {
      id: idOf('cap consult'),
      bucket: 'provider-type-day',
      provider_id: null,
      site_id: null,
      visit_type_id: TYPES.consult,
      max: 3,
    },
  ]);
}
