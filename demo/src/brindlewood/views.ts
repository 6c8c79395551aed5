import { STANDARD_VIEW, type ViewSettings } from '@zaguan/contracts/daybook';
import type { Orm } from '@zaguan/server/platform/db/orm';
import { idOf } from '../random.ts';
import { insertRows } from '../rows.ts';

/** Ways of drawing the Daybook that everyone at the clinic has. */
const SHARED: readonly { readonly name: string; readonly hotkey: number; readonly settings: Partial<ViewSettings> }[] =
  [
    {
      name: 'Columns',
      hotkey: 1,
      settings: { axis: 'down', details: ['type', 'reason'], totals: ['share', 'visits'] },
    },
    {
      name: 'Rooms and equipment',
      hotkey: 2,
      settings: { lanes: 'places', coloredBy: 'provider', details: ['provider', 'type'], totals: ['visits', 'booked'] },
    },
    {
      name: 'Check-in',
      hotkey: 3,
      settings: { coloredBy: 'readiness', details: ['kind', 'type'], totals: ['visits', 'open'], density: 'dense' },
    },
    {
      name: 'Waiting-room screen',
      hotkey: 4,
      settings: { coloredBy: 'status', details: ['time'], namesHidden: true, card: false, hours: 'first' },
    },
    {
      name: 'Day in figures',
      hotkey: 5,
      settings: { order: 'first-hours', totals: ['share', 'visits', 'booked', 'open', 'fees'] },
    },
  ];

export async function loadViews(orm: Orm): Promise<void> {
  await insertRows(
    orm,
    'daybook_view',
    SHARED.map(({ name, hotkey, settings }, position) => ({
      id: idOf(`lens ${name}`),
      name,
      scope: 'shared',
      hotkey,
      settings: { ...STANDARD_VIEW, ...settings },
      position,
      version: 1,
    })),
  );
}
