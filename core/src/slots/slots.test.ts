import fc from 'fast-check';
import { expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { DAY, otherVisit, smallClinic, ZONE } from '../../tests/smallClinic.ts';
import { ClinicIndex } from '../openings/index.ts';
import { countCells, epochToWall, hasCell } from '../time/index.ts';
import { slotsOn } from './index.ts';

const clock = (minute: number) => epochToWall(ZONE, minute).minute;

it('cuts a day into what is free, booked, held and away', () => {
  const visit = otherVisit(540, 570);
  const hold = otherVisit(600, 630, { id: 'hold' });
  const row = (of: typeof visit) => ({ resourceId: 'doctor', start: of.start, end: of.end, visitId: of.id });
  const away = {
    id: 'off',
    resourceId: 'doctor',
    siteId: null,
    startDate: DAY,
    startMinute: 660,
    endDate: DAY,
    endMinute: 1440,
  };
  const clinic = smallClinic({ visits: [visit, hold], occupied: [row(visit), row(hold)], timeOff: [away] });
  const slots = slotsOn(new ClinicIndex(clinic, 0), 'doctor', 'site', DAY, new Set(['hold']));
  expect(slots.map(({ start, end, status }) => [clock(start), clock(end), status])).toEqual([
    [480, 540, 'free'],
    [540, 570, 'busy'],
    [570, 600, 'free'],
    [600, 630, 'busy-tentative'],
    [630, 660, 'free'],
    [660, 720, 'busy-unavailable'],
  ]);
});

it('covers the working hours exactly once, on random clinics', () => {
  let seen = 0;
  fc.assert(
    fc.property(fc.gen(), (gen) => {
      const { snapshot, now, date } = randomCase(drawFrom(gen));
      const index = new ClinicIndex(snapshot, now);
      for (const { id } of snapshot.resources) {
        const day = index.day('a', date);
        const { hours } = index.resourceDay(id, 'a', date);
        const slots = slotsOn(index, id, 'a', date, new Set());
        const minutes = slots.reduce((sum, { start, end }) => sum + end - start, 0);
        expect(minutes).toBe(countCells(hours) * 5);
        for (const { start, end } of slots)
          for (let at = start; at < end; at += 5) expect(hasCell(hours, (at - day.start) / 5)).toBe(true);
        for (let i = 1; i < slots.length; i++) expect(slots[i].start).toBeGreaterThanOrEqual(slots[i - 1].end);
        seen += slots.length;
      }
    }),
    { numRuns: 60 },
  );
  expect(seen).toBeGreaterThan(200);
});
