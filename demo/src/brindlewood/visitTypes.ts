import type { Orm } from '@zaguan/server/platform/db/orm';
import { DEFAULT_POLICY } from '../defaults.ts';
import { idOf } from '../random.ts';
import { insertRows } from '../rows.ts';
import { PROVIDER } from './people.ts';
import { dataOf, type NeedData, TYPE, TYPE_KEYS, type TypeKey } from './visitTypeData.ts';

/** Made up, in whole dollars. */
const FEE_USD: Record<TypeKey, number> = {
  ...{ consult: 310, follow: 140, asthma: 195, spirometry: 85, skin: 260, injection: 45, venom: 70 },
  ...{ biologic: 120, biologicFirst: 165, challenge: 520, drug: 480, patch: 220, patchRead: 90 },
  ...{ dietitian: 125, video: 120, call: 40, school: 55, feno: 65 },
};

/** Seventeen visit types with their parts, who performs them, and how they are offered online. */
export async function loadVisitTypes(orm: Orm): Promise<void> {
  await insertRows(
    orm,
    'visit_type',
    TYPE_KEYS.map((key, i) => ({
      id: TYPE[key],
      code: key.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`),
      name: dataOf(key).name,
      public_name_en: dataOf(key).en[0],
      public_name_es: dataOf(key).es[0],
      description_en: dataOf(key).en[1],
      description_es: dataOf(key).es[1],
      color: dataOf(key).color,
      mode: dataOf(key).mode ?? 'in-person',
      before_min: 0,
      after_min: dataOf(key).afterMin ?? 0,
      expected_fee_usd: FEE_USD[key],
      active: true,
      sort_order: i + 1,
    })),
  );
  const partId = (key: TypeKey, at: number) => idOf(`${key} part ${at + 1}`);
  await insertRows(
    orm,
    'visit_type_part',
    TYPE_KEYS.flatMap((key) =>
      dataOf(key).parts.map(({ name, min }, at) => ({
        id: partId(key, at),
        visit_type_id: TYPE[key],
        position: at + 1,
        name,
        length_min: min,
      })),
    ),
  );
  const needs = TYPE_KEYS.flatMap((key) =>
    dataOf(key).parts.flatMap((each, at) => each.needs.map((row) => needRow(key, partId(key, at), row))),
  );
  // What others are bound to comes first.
  await insertRows(
    orm,
    'visit_type_need',
    needs.filter((row) => row.same_as === null),
  );
  await insertRows(
    orm,
    'visit_type_need',
    needs.filter((row) => row.same_as !== null),
  );
  await insertRows(
    orm,
    'visit_type_provider',
    TYPE_KEYS.flatMap((key) =>
      (dataOf(key).by ?? []).map((who) => ({ visit_type_id: TYPE[key], provider_id: PROVIDER[who] })),
    ),
  );
  await insertRows(
    orm,
    'online_policy',
    TYPE_KEYS.filter((key) => dataOf(key).online).map((key) => ({
      ...DEFAULT_POLICY,
      id: idOf(`policy ${key}`),
      visit_type_id: TYPE[key],
      ...dataOf(key).online,
    })),
  );
  await insertRows(orm, 'visit_type_spacing', [
    { visit_type_id: TYPE.injection, other_type_id: TYPE.injection, min_days: 2, max_days: null },
    { visit_type_id: TYPE.venom, other_type_id: TYPE.venom, min_days: 6, max_days: null },
    { visit_type_id: TYPE.biologic, other_type_id: TYPE.biologic, min_days: 13, max_days: null },
  ]);
  await insertRows(orm, 'visit_type_link', [
    { visit_type_id: TYPE.patch, follow_type_id: TYPE.patchRead, offset_min: 48 * 60 },
    { visit_type_id: TYPE.patch, follow_type_id: TYPE.patchRead, offset_min: 96 * 60 },
  ]);
  const cap = (name: string, bucket: string, type: TypeKey, max: number) => ({
    id: idOf(`cap ${name}`),
    bucket,
    provider_id: null,
    site_id: null,
    visit_type_id: TYPE[type],
    max,
  });
  await insertRows(orm, 'booking_cap', [
    cap('consult', 'provider-type-day', 'consult', 3),
    cap('challenge', 'site-type-day', 'challenge', 1),
    cap('drug', 'site-type-day', 'drug', 2),
  ]);
}

function needRow(key: TypeKey, part_id: string, row: NeedData) {
  return {
    id: idOf(`${key} need ${row.key}`),
    visit_type_id: TYPE[key],
    part_id,
    key: row.key,
    what: row.what,
    resource_id: null,
    pool_kind: row.what === 'pool' ? row.pool : null,
    capability: row.what === 'present' ? 'treats-anaphylaxis' : null,
    same_as: row.what === 'pool' ? (row.same ?? null) : null,
    different_from: null,
    turnaround_min: row.what === 'pool' ? (row.turnaround ?? 0) : 0,
  };
}
