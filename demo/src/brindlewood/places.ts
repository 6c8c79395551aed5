import type { Orm } from '@zaguan/server/platform/db/orm';
import { DEFAULT_RESOURCE } from '../defaults.ts';
import { idOf } from '../random.ts';
import { insertRows } from '../rows.ts';
import { NURSES } from './people.ts';
import { SITE, type SiteKey } from './sites.ts';

interface PoolData {
  readonly kind: string;
  readonly name: string;
  readonly member: string;
  readonly of: 'room' | 'equipment';
  readonly count: Record<SiteKey, number>;
  readonly single?: boolean;
}

/** What visits need besides people, as pools by site. */
const POOLS: readonly PoolData[] = [
  {
    kind: 'exam-room',
    name: 'Exam rooms',
    member: 'Exam room',
    of: 'room',
    count: { canal: 5, orchard: 3, mesa: 4, saltbush: 2 },
  },
  {
    kind: 'skin-test-room',
    name: 'Skin-test rooms',
    member: 'Skin-test room',
    of: 'room',
    count: { canal: 2, orchard: 1, mesa: 1, saltbush: 1 },
  },
  {
    kind: 'injection-station',
    name: 'Injection stations',
    member: 'Injection station',
    of: 'room',
    count: { canal: 3, orchard: 2, mesa: 2, saltbush: 1 },
  },
  {
    kind: 'observation-chair',
    name: 'Observation chairs',
    member: 'Chair',
    of: 'room',
    count: { canal: 8, orchard: 6, mesa: 5, saltbush: 3 },
  },
  {
    kind: 'challenge-room',
    name: 'Challenge room',
    member: 'Challenge room',
    of: 'room',
    count: { canal: 1, orchard: 1, mesa: 1, saltbush: 0 },
  },
  {
    kind: 'spirometer',
    name: 'Spirometers',
    member: 'Spirometer',
    of: 'equipment',
    count: { canal: 2, orchard: 1, mesa: 1, saltbush: 1 },
    single: true,
  },
  {
    kind: 'feno-monitor',
    name: 'FeNO monitor',
    member: 'FeNO monitor',
    of: 'equipment',
    count: { canal: 1, orchard: 0, mesa: 0, saltbush: 0 },
    single: true,
  },
];

const SITES = Object.keys(SITE) as SiteKey[];

/** Rooms and equipment one by one, and the pools they and the injection nurses belong to. */
export async function loadPlaces(orm: Orm): Promise<void> {
  const members = POOLS.flatMap((pool, p) =>
    SITES.flatMap((site) =>
      Array.from({ length: pool.count[site] }, (_, i) => ({
        pool,
        site,
        number: i + 1,
        // The excerpt's skin-test rooms keep their ids.
        id: idOf(
          pool.kind === 'skin-test-room' && site === 'canal' ? `skin room ${i + 1}` : `${pool.kind} ${site} ${i + 1}`,
        ),
        name: site === 'saltbush' && pool.kind === 'spirometer' ? 'Portable spirometer' : nameOf(pool, site, i),
        order: 100 + p * 20 + i,
      })),
    ),
  );
  await insertRows(
    orm,
    'resource',
    members.map(({ id, name, site, pool, order, number }) => ({
      id,
      kind: pool.of,
      name,
      short_name: name.replace('Injection station', 'Station').replace('Skin-test', 'Skin'),
      home_site_id: SITE[site],
      capabilities: [],
      sort_order: order,
      ...DEFAULT_RESOURCE,
      single_device: pool.single ?? false,
      access: accessOf(pool, site, number),
    })),
  );
  await insertRows(
    orm,
    'resource_site',
    members.map(({ id, site }) => ({ resource_id: id, site_id: SITE[site] })),
  );
  await insertRows(orm, 'pool', [
    ...POOLS.flatMap((pool, p) =>
      SITES.filter((site) => pool.count[site] > 0).map((site) => ({
        id: poolId(pool.kind, site),
        site_id: SITE[site],
        kind: pool.kind,
        name: pool.name,
        shown_in_daybook: true,
        sort_order: p + 2,
      })),
    ),
    ...SITES.map((site) => ({
      id: poolId('injection-nurse', site),
      site_id: SITE[site],
      kind: 'injection-nurse',
      name: 'Injection nurses',
      shown_in_daybook: true,
      sort_order: 1,
    })),
  ]);
  await insertRows(orm, 'pool_member', [
    ...members.map(({ id, pool, site, number }) => ({ pool_id: poolId(pool.kind, site), resource_id: id, number })),
    ...SITES.flatMap((site) =>
      NURSES[site].map(({ id }, i) => ({
        pool_id: poolId('injection-nurse', site),
        resource_id: id,
        number: i + 1,
      })),
    ),
  ]);
}

export function poolId(kind: string, site: SiteKey): string {
  return idOf(`pool ${kind} ${site}`);
}

function nameOf(pool: PoolData, site: SiteKey, i: number): string {
  return pool.count[site] > 1 ? `${pool.member} ${i + 1}` : pool.member;
}

/** The first exam room of each site is the roomy one; only Canal Row has a lift for patients. */
function accessOf({ kind }: PoolData, site: SiteKey, number: number): string[] {
  if (kind !== 'exam-room' || number > 1) return kind === 'challenge-room' ? ['wide-door'] : [];
  return site === 'canal' ? ['wide-door', 'adjustable-table', 'patient-lift'] : ['wide-door', 'adjustable-table'];
}
