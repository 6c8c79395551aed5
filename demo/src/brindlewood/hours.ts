import { addDays, type LocalDate } from '@zaguan/core/time';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf } from '../random.ts';
import { insertRows, type Row } from '../rows.ts';
import { NURSES, PROVIDER, type ProviderKey } from './people.ts';
import { type RuleOf, defaultHours } from '../defaults.ts';
import { nextMonth, SITE, type SiteKey, WEEKDAYS } from './sites.ts';

type Hours = readonly [site: SiteKey, weekdays: readonly number[], from: number, to: number, extra?: Row];

const ESTABLISHED = { accepts_kinds: ['established'] };
const DESK_ONLY = { online: false };
/** New patients only; two days before, whatever is left is open to all. */
const NEW_FIRST = { accepts_kinds: ['new'], release_before_min: 2880, release_kinds: null };

const PROVIDER_HOURS: Record<ProviderKey, readonly Hours[]> = {
  amaya: [
    ['canal', WEEKDAYS, 480, 720],
    ['canal', [1, 2, 3, 4], 780, 1020, NEW_FIRST],
  ],
  okonjo: [
    ['canal', [2, 3, 4, 5], 480, 720],
    ['canal', [2, 3, 4, 5], 780, 990, ESTABLISHED],
  ],
  venn: [
    ['orchard', [1, 3, 4, 5], 480, 720],
    ['orchard', [1, 3, 5], 780, 1020, NEW_FIRST],
    ['canal', [2], 540, 720],
    ['canal', [2], 780, 1020, DESK_ONLY],
  ],
  dray: [
    ['mesa', WEEKDAYS, 480, 720],
    ['mesa', [1, 2, 3, 4], 780, 1020, NEW_FIRST],
  ],
  castellan: [
    ['mesa', [1, 3, 5], 480, 720],
    ['mesa', [1, 3, 5], 780, 1020],
    ['saltbush', [2, 4], 480, 720],
    ['saltbush', [2, 4], 780, 1020],
    ['saltbush', [6], 480, 720, { every_weeks: 2 }],
  ],
  lund: [
    ['canal', [1, 2, 5], 480, 720, DESK_ONLY],
    ['canal', [1, 2, 5], 780, 1020, ESTABLISHED],
    ['mesa', [3, 4], 480, 960],
  ],
  quist: [
    ['orchard', [1, 2, 3, 4], 480, 720],
    ['orchard', [1, 2, 3, 4], 780, 1020, ESTABLISHED],
  ],
  ferro: [
    ['orchard', [2, 3, 4, 5], 480, 720],
    ['orchard', [2, 3, 4, 5], 780, 1020],
  ],
  brandao: [
    ['canal', WEEKDAYS, 480, 720, ESTABLISHED],
    ['canal', WEEKDAYS, 780, 960, ESTABLISHED],
  ],
  marsh: [['canal', [1, 2, 3, 4], 540, 990]],
  tarrow: [
    ['canal', WEEKDAYS, 480, 720],
    ['canal', WEEKDAYS, 750, 960],
  ],
};

/** Each nurse's own: the first opens, the others come later and stay. */
const NURSE_HOURS: Record<SiteKey, readonly (readonly Hours[])[]> = {
  canal: [
    [],
    [
      ['canal', WEEKDAYS, 480, 720],
      ['canal', WEEKDAYS, 780, 1050],
    ],
    [
      ['canal', [1, 2, 3, 4], 570, 780],
      ['canal', [1, 2, 3, 4], 810, 1050],
    ],
  ],
  orchard: [
    [
      ['orchard', WEEKDAYS, 480, 720],
      ['orchard', WEEKDAYS, 750, 1020],
    ],
    [['orchard', [1, 3, 5], 540, 900]],
  ],
  mesa: [
    [
      ['mesa', WEEKDAYS, 480, 720],
      ['mesa', WEEKDAYS, 750, 1020],
    ],
    [['mesa', [1, 2, 4], 600, 1020]],
  ],
  saltbush: [
    [
      ['saltbush', [2, 4], 480, 720],
      ['saltbush', [2, 4], 750, 1020],
      ['saltbush', [6], 480, 720, { every_weeks: 2 }],
    ],
  ],
};

/** Everyone's recurring hours, stretches kept free, time off, a single-date change and some strokes of the brush. */
export async function loadHours(orm: Orm, today: LocalDate, rule: RuleOf): Promise<void> {
  const row = (owner: string, resource_id: string, [site, weekdays, from, to, extra]: Hours, i: number): Row => ({
    ...defaultHours(today),
    id: idOf(`hours ${owner} ${i}`),
    resource_id,
    site_id: SITE[site],
    ...rule(weekdays),
    from_minute: from,
    to_minute: to,
    ...extra,
  });
  const providers = (Object.keys(PROVIDER_HOURS) as ProviderKey[]).flatMap((key) =>
    PROVIDER_HOURS[key].map((hours, i) => ({
      ...row(key, PROVIDER[key], hours, i),
      ...(key === 'marsh' && { effective_from: nextMonth(today) }),
    })),
  );
  const nurses = (Object.keys(NURSE_HOURS) as SiteKey[]).flatMap((site) =>
    NURSES[site].flatMap(({ id, name }, n) => NURSE_HOURS[site][n].map((hours, i) => row(name, id, hours, i))),
  );
  await insertRows(orm, 'working_hours', [...providers, ...nurses]);
  await insertRows(
    orm,
    'kept_free',
    [
      keptFree('dray', WEEKDAYS, 600, 615, 'Phone calls'),
      keptFree('amaya', [1, 3], 690, 720, 'Letters'),
      keptFree('castellan', [1, 5], 480, 495, 'Phone calls'),
    ].map((each) => ({ ...each, ...rule(each.weekdays) })),
  );
  await insertRows(orm, 'time_off', [
    timeOff('quist', addDays(today, -6), addDays(today, 14), 'Leave'),
    timeOff('lund', addDays(today, 21), addDays(today, 23), 'Training'),
    timeOff('okonjo', addDays(today, 30), addDays(today, 37), 'Leave'),
    timeOff('venn', addDays(today, -90), addDays(today, -80), 'Leave'),
    timeOff('dray', addDays(today, -200), addDays(today, -187), 'Leave'),
  ]);
  await insertRows(orm, 'brush_stroke', brushed(today));
}

function keptFree(key: ProviderKey, weekdays: readonly number[], from: number, to: number, note: string) {
  return {
    id: idOf(`kept free ${key}`),
    resource_id: PROVIDER[key],
    site_id: null,
    weekdays,
    from_minute: from,
    to_minute: to,
    note,
  };
}

function timeOff(key: ProviderKey, from: LocalDate, until: LocalDate, reason: string): Row {
  return {
    id: idOf(`off ${key} ${from}`),
    resource_id: PROVIDER[key],
    site_id: null,
    start_date: from,
    start_minute: 0,
    end_date: until,
    end_minute: 1440,
    reason,
    status: 'approved',
  };
}

/** Dr. Venn's afternoons at Canal Row are opened online two weeks from now; a morning of Dr. Dray's is kept for the desk. */
function brushed(today: LocalDate): Row[] {
  const stroke = (key: ProviderKey, site: SiteKey, date: LocalDate, from: number, to: number, value: string) => ({
    id: idOf(`stroke ${key} ${date}`),
    resource_id: PROVIDER[key],
    site_id: SITE[site],
    date,
    from_minute: from,
    to_minute: to,
    value,
  });
  return [
    ...Array.from({ length: 14 }, (_, i) => stroke('venn', 'canal', addDays(today, 10 + i), 780, 900, 'shown')),
    ...Array.from({ length: 5 }, (_, i) => stroke('dray', 'mesa', addDays(today, 3 + i), 480, 600, 'desk-only')),
  ];
}
