import { addDays, type LocalDate } from '@zaguan/core/time';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { type RuleOf, defaultHours } from '../defaults.ts';
import { PROVIDERS, SITES, WEEKDAYS } from './ids.ts';
import { insertRows, type Row } from '../rows.ts';
import { idOf } from '../random.ts';

/** Everyone's recurring hours, a stretch kept free and some days off. */
export async function loadHours(orm: Orm, today: LocalDate, rule: RuleOf): Promise<void> {
  const hours = (
    name: string,
    resource_id: string,
    site_id: string,
    weekdays: number[],
    from: number,
    to: number,
    extra: Row = {},
  ) => ({
    ...defaultHours(today),
    id: idOf(`session ${name}`),
    resource_id,
    site_id,
    ...rule(weekdays),
    from_minute: from,
    to_minute: to,
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
