import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { describe, expect, it } from 'vitest';
import { cellOfWall, epochOfCell, epochToWall, isDate, isZone, wallToEpoch, weekdayOf, zoneDay } from './index.ts';

/** Second Sunday of March and first Sunday of November (Energy Policy Act of 2005): 2026 and 2027. */
const SPRING = ['2026-03-08', '2027-03-14'] as const;
const AUTUMN = ['2026-11-01', '2027-11-07'] as const;

function temporal(zone: string, date: string, minute: number): number {
  return (
    Temporal.PlainDateTime.from(date).add({ minutes: minute }).toZonedDateTime(zone, { disambiguation: 'compatible' })
      .epochMilliseconds / 60_000
  );
}

describe.each(['America/Chicago', 'America/Denver'])('%s over its clock changes', (zone) => {
  it.each(SPRING)('%s has 276 cells, and 2:30 am is read as 3:30 am', (date) => {
    expect(zoneDay(zone, date).cells).toBe(276);
    expect(epochToWall(zone, wallToEpoch(zone, date, 150))).toEqual({ date, minute: 210 });
    expect(cellOfWall(zoneDay(zone, date), 180)).toBe(24);
  });
  it.each(AUTUMN)('%s has 300 cells, and 1:30 am is the earlier of the two', (date) => {
    const day = zoneDay(zone, date);
    expect(day.cells).toBe(300);
    expect(wallToEpoch(zone, date, 90) - day.start).toBe(90);
    expect(wallToEpoch(zone, date, 120) - day.start).toBe(180);
  });
  it.each([...SPRING, ...AUTUMN])('on %s working hours from 0:30 to 4:00 keep their wall-clock time', (date) => {
    const day = zoneDay(zone, date);
    for (const minute of [30, 240])
      expect(epochToWall(zone, epochOfCell(day, cellOfWall(day, minute))).minute).toBe(minute);
    const hours = (cellOfWall(day, 240) - cellOfWall(day, 30)) * 5;
    expect(hours).toBe(SPRING.includes(date as never) ? 150 : 270);
  });
});

it('America/Phoenix never changes, so its distance to Denver does', () => {
  for (const date of [...SPRING, ...AUTUMN]) expect(zoneDay('America/Phoenix', date).cells).toBe(288);
  const apart = (date: string) => wallToEpoch('America/Phoenix', date, 600) - wallToEpoch('America/Denver', date, 600);
  expect(apart('2026-01-15')).toBe(0);
  expect(apart('2026-07-15')).toBe(60);
});

it('converts like Temporal for any minute near any change, both ways', () => {
  const zones = fc.constantFrom(
    'America/Chicago',
    'America/Denver',
    'America/Phoenix',
    'Europe/Madrid',
    'Australia/Lord_Howe',
    'Asia/Kolkata',
  );
  fc.assert(
    fc.property(
      zones,
      fc.constantFrom(...SPRING, ...AUTUMN, '2026-04-05', '2026-10-04', '2026-10-25', '2026-12-31'),
      fc.integer({ min: 0, max: 1439 }),
      (zone, date, minute) => {
        const at = wallToEpoch(zone, date, minute);
        expect(at).toBe(temporal(zone, date, minute));
        const z = Temporal.Instant.fromEpochMilliseconds(at * 60_000).toZonedDateTimeISO(zone);
        expect(epochToWall(zone, at)).toEqual({ date: z.toPlainDate().toString(), minute: z.hour * 60 + z.minute });
      },
    ),
    { numRuns: 2000 },
  );
});

it('knows dates and zones that exist', () => {
  expect([isDate('2028-02-29'), isDate('2026-02-29'), isDate('2026-02-31'), isDate('2026-2-3'), isDate('x')]).toEqual([
    true,
    false,
    false,
    false,
    false,
  ]);
  expect([isZone('America/Phoenix'), isZone('America/Nowhere')]).toEqual([true, false]);
  // An offset is no name of a zone: it has no rule for when clocks change.
  expect(['+05:30', '-06:00', '+0530', '05:30', ''].filter(isZone)).toEqual([]);
  expect(weekdayOf('2026-11-26')).toBe(4);
});

describe('a zone whose skipped hour ends the day', () => {
  // IANA tz database, `northamerica`: Greenland changes with the EU, at 01:00 UTC, which is 23:00 on the evening before.
  const day = zoneDay('America/Nuuk', '2027-03-27');

  it('has a day of 23 hours, up to the next midnight', () => {
    expect(day.cells).toBe(276);
    expect(day.end * 60_000).toBe(Date.UTC(2027, 2, 28, 1));
    expect(zoneDay('America/Nuuk', '2027-03-28').start).toBe(day.end);
  });

  it('loses no minute before it, and gives none of it to tomorrow', () => {
    expect(cellOfWall(day, 22 * 60 + 55)).toBe(275);
    for (const minute of [23 * 60, 23 * 60 + 5, 23 * 60 + 30, 23 * 60 + 55, 1440])
      expect(cellOfWall(day, minute)).toBe(276);
  });
});
