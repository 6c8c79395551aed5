import { addDays, datesFrom, type LocalDate, weekdayOf } from '@zaguan/core/time';
import type { Orm } from '@zaguan/server/platform/db/orm';
import type { RuleOf } from '../defaults.ts';
import { idOf } from '../random.ts';
import { insertRows, type Row } from '../rows.ts';

/** Names as ids: `SITE.canal` is Canal Row. */
export const SITE = {
  canal: idOf('Canal Row'),
  orchard: idOf('Orchard Hill'),
  mesa: idOf('Mesa Court'),
  saltbush: idOf('Saltbush'),
} as const;
export type SiteKey = keyof typeof SITE;

export const WEEKDAYS = [1, 2, 3, 4, 5];
/** Minutes by road between the two sites of one town; the others are a day apart. */
const ACROSS_TOWN_MIN = 35;
const A_DAY_APART_MIN = 720;

export const ZONE: Record<SiteKey, string> = {
  canal: 'America/Chicago',
  orchard: 'America/Chicago',
  mesa: 'America/Denver',
  saltbush: 'America/Phoenix',
};

/** The clinic, its four sites in three zones, when they are open, how far apart they are, and when they are shut. */
export async function loadSites(orm: Orm, from: LocalDate, until: LocalDate, rule: RuleOf): Promise<void> {
  await insertRows(orm, 'clinic', [
    { only_row: true, name: 'Brindlewood Allergy & Asthma', phone: '(312) 555-0100', base_unit_min: 5 },
  ]);
  await insertRows(orm, 'site', SITE_ROWS);
  const open = (key: SiteKey, weekdays: number[], from_minute: number, to_minute: number, weeks = 1) => ({
    id: idOf(`open ${key} ${weekdays.join('')}`),
    site_id: SITE[key],
    ...rule(weekdays, weeks),
    from_minute,
    to_minute,
  });
  await insertRows(orm, 'site_hours', [
    open('canal', WEEKDAYS, 450, 1050),
    open('orchard', WEEKDAYS, 480, 1020),
    open('mesa', WEEKDAYS, 450, 1050),
    open('saltbush', [2, 4], 480, 1020),
    open('saltbush', [6], 480, 720, 2),
  ]);
  const keys = Object.keys(SITE) as SiteKey[];
  const town = (key: SiteKey) => (key === 'canal' || key === 'orchard' ? 'Brindlewood' : key);
  await insertRows(
    orm,
    'site_travel',
    keys.flatMap((a) =>
      keys
        .filter((b) => b !== a)
        .map((b) => ({
          from_site_id: SITE[a],
          to_site_id: SITE[b],
          minutes: town(a) === town(b) ? ACROSS_TOWN_MIN : A_DAY_APART_MIN,
        })),
    ),
  );
  await insertRows(
    orm,
    'closure',
    datesFrom(from, until)
      .filter(isHoliday)
      .flatMap((date) =>
        keys.map((key) => ({
          id: idOf(`closed ${key} ${date}`),
          site_id: SITE[key],
          start_date: date,
          start_minute: 0,
          end_date: date,
          end_minute: 1440,
          reason: 'Holiday',
        })),
      ),
  );
}

/** New Year, the Fourth of July, Thanksgiving (fourth Thursday of November) and Christmas. */
export function isHoliday(date: LocalDate): boolean {
  const [, month, day] = date.split('-').map(Number);
  if ((month === 1 && day === 1) || (month === 7 && day === 4) || (month === 12 && day === 25)) return true;
  return month === 11 && weekdayOf(date) === 4 && day >= 22 && day <= 28;
}

/** The first date of next month. */
export function nextMonth(today: LocalDate): LocalDate {
  let date = addDays(today, 1);
  while (!date.endsWith('-01')) date = addDays(date, 1);
  return date;
}

const SITE_ROWS: Row[] = [
  {
    id: SITE.canal,
    code: 'CR',
    name: 'Canal Row',
    public_name: 'Brindlewood at Canal Row',
    address_line: '14 Canal Row',
    city: 'Brindlewood',
    region: 'IL',
    postal_code: '60000',
    phone: '(312) 555-0101',
    email: 'canalrow@example.com',
    time_zone: ZONE.canal,
    directions_en: 'The blue-green door beside the footbridge. Step-free from the towpath.',
    directions_es: 'La puerta verde azulada junto al puente peatonal. Sin escalones desde el camino del canal.',
    bookable_online: true,
    access: ['step-free', 'hearing-loop'],
    sort_order: 1,
  },
  {
    id: SITE.orchard,
    code: 'OH',
    name: 'Orchard Hill',
    public_name: 'Brindlewood at Orchard Hill',
    address_line: '220 Orchard Hill Road',
    city: 'Brindlewood',
    region: 'IL',
    postal_code: '60000',
    phone: '(312) 555-0104',
    email: 'orchardhill@example.com',
    time_zone: ZONE.orchard,
    directions_en: 'At the top of the hill, past the old press house. Parking on the left.',
    directions_es: 'En lo alto de la colina, pasando el antiguo lagar. Estacionamiento a la izquierda.',
    bookable_online: true,
    access: ['step-free'],
    sort_order: 2,
  },
  {
    id: SITE.mesa,
    code: 'MC',
    name: 'Mesa Court',
    public_name: 'Brindlewood at Mesa Court',
    address_line: '3 Mesa Court, second floor',
    city: 'Piedra Alta',
    region: 'CO',
    postal_code: '80000',
    phone: '(720) 555-0102',
    email: 'mesacourt@example.com',
    time_zone: ZONE.mesa,
    directions_en: 'Elevator at the back of the court. Parking in front.',
    directions_es: 'Elevador al fondo del patio. Estacionamiento al frente.',
    bookable_online: true,
    access: ['step-free', 'quiet-room'],
    sort_order: 3,
  },
  {
    id: SITE.saltbush,
    code: 'SB',
    name: 'Saltbush',
    public_name: 'Brindlewood at Saltbush',
    address_line: '51 Saltbush Lane',
    city: 'Dos Vados',
    region: 'AZ',
    postal_code: '85000',
    phone: '(602) 555-0103',
    email: 'saltbush@example.com',
    time_zone: ZONE.saltbush,
    directions_en: 'The low white house behind the library. Open Tuesdays, Thursdays and every other Saturday.',
    directions_es: 'La casa blanca y baja detrás de la biblioteca. Abierto martes, jueves y un sábado sí y otro no.',
    bookable_online: true,
    access: [],
    sort_order: 4,
  },
];
