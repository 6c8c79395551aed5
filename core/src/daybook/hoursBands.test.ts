import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { PROVIDERS } from '../../tests/randomParts.ts';
import { DAY, HOURS, smallClinic } from '../../tests/smallClinic.ts';
import { type ClinicSnapshot, ClinicStore } from '../openings/index.ts';
import { cellOfWall, emptyMask, epochOfCell, orInto, rangeMask, zoneDay } from '../time/index.ts';
import { bookedShare, hoursBandsOf, onlineCells, type HoursBand } from './index.ts';

function dayOf(snapshot: ClinicSnapshot, id = 'doctor', siteId = 'site', date = DAY) {
  const store = new ClinicStore(snapshot);
  const day = store.day(siteId, date);
  const plan = store.planOn(store.lane(id, siteId), day);
  return { store, day, plan, hoursBands: hoursBandsOf(plan, store.siteDay(siteId, date)) };
}
const clock = (minute: number) => cellOfWall(zoneDay('America/Chicago', DAY), minute);
const drawn = (hoursBands: readonly HoursBand[]) =>
  hoursBands.map(({ fromCell, toCell, online }) => [fromCell, toCell, online.map((run) => [run.fromCell, run.toCell])]);
const span = (fromMinute: number, toMinute: number) => ({
  ...{ startDate: DAY, startMinute: fromMinute, endDate: DAY, endMinute: toMinute },
});

describe('the strips above a lane', () => {
  it('are the hours that hold, with what patients see of them', () => {
    const all = [clock(480), clock(720)];
    expect(drawn(dayOf(smallClinic()).hoursBands)).toEqual([[...all, [all]]]);
    const brush = [
      { id: 'b', resourceId: 'doctor', siteId: 'site', date: DAY, fromMinute: 600, toMinute: 660, order: 1 },
    ];
    expect(drawn(dayOf(smallClinic({ brush: [{ ...brush[0], value: 'desk-only' as const }] })).hoursBands)).toEqual([
      [
        ...all,
        [
          [clock(480), clock(600)],
          [clock(660), clock(720)],
        ],
      ],
    ]);
    const desk = [{ ...HOURS, online: false }];
    expect(drawn(dayOf(smallClinic({ workingHours: desk })).hoursBands)).toEqual([[...all, []]]);
    expect(
      drawn(dayOf(smallClinic({ workingHours: desk, brush: [{ ...brush[0], value: 'shown' as const }] })).hoursBands),
    ).toEqual([[...all, [[clock(600), clock(660)]]]]);
  });

  it('break where somebody is away or the site is shut, and stay where a stretch is only kept free', () => {
    const away = { id: 'o', resourceId: 'doctor', siteId: null, ...span(540, 600) };
    expect(drawn(dayOf(smallClinic({ timeOff: [away] })).hoursBands)).toEqual([
      [clock(480), clock(540), [[clock(480), clock(540)]]],
      [clock(600), clock(720), [[clock(600), clock(720)]]],
    ]);
    const closure = { id: 'c', siteId: 'site', ...span(0, 1440) };
    expect(dayOf(smallClinic({ closures: [closure] })).hoursBands).toEqual([]);
    const free = { id: 'k', resourceId: 'doctor', siteId: null, rule: HOURS.rule, fromMinute: 480, toMinute: 510 };
    expect(drawn(dayOf(smallClinic({ keptFree: [free] })).hoursBands)).toEqual([
      [clock(480), clock(720), [[clock(510), clock(720)]]],
    ]);
  });

  it('hold on every cell just what the rules of the day say, on random clinics', () => {
    const seen = { shown: 0, desk: 0 };
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const { snapshot, siteId, date } = randomCase(draw);
        const id = draw.pick(PROVIDERS);
        const { store, day, plan, hoursBands } = dayOf(snapshot, id, siteId, date);
        const has = (mask: Int32Array, cell: number) => (mask[cell >>> 5] & (1 << (cell & 31))) !== 0;
        const site = store.siteDay(siteId, date);
        const strokes = snapshot.brush
          .filter((row) => row.resourceId === id && row.siteId === siteId && row.date === date)
          .sort((a, b) => b.order - a.order);
        for (let cell = 0; cell < day.cells; cell++) {
          const hoursBand = hoursBands.find((each) => cell >= each.fromCell && cell < each.toCell);
          const works = has(plan.hours, cell) && !has(plan.timeOff, cell) && !has(site.closed, cell);
          expect(hoursBand !== undefined).toBe(works && plan.stretchOfCell[cell] >= 0);
          if (!hoursBand) continue;
          expect(hoursBand.stretch).toBe(plan.stretchOfCell[cell]);
          // The newest stroke over the cell decides; without one, the hours do.
          const stroke = strokes.find(
            (row) =>
              epochOfCell(day, cell) >= epochOfCell(day, cellOfWall(day, row.fromMinute)) &&
              epochOfCell(day, cell) < epochOfCell(day, cellOfWall(day, row.toMinute)),
          );
          const byRule = plan.stretches[plan.stretchOfCell[cell]].online;
          const bit = !stroke || stroke.value === 'by-rule' ? byRule : stroke.value === 'shown';
          const shown = bit && has(site.open, cell) && !has(plan.keptFree, cell);
          expect(hoursBand.online.some((run) => cell >= run.fromCell && cell < run.toCell)).toBe(shown);
          if (shown) seen.shown++;
          else seen.desk++;
        }
        const covered = emptyMask();
        for (const hoursBand of hoursBands)
          for (const run of hoursBand.online) orInto(covered, rangeMask(run.fromCell, run.toCell));
        // Nothing is drawn as online whose bit is off.
        expect(covered.every((word, i) => (word & ~onlineCells(plan)[i]) === 0)).toBe(true);
      }),
      { numRuns: 300, endOnFailure: true },
    );
    expect(Math.min(seen.shown, seen.desk)).toBeGreaterThan(500);
  });

  it('are taken by the share that is booked, and by none where nobody works', () => {
    const { hoursBands } = dayOf(smallClinic());
    expect(bookedShare(hoursBands, emptyMask())).toBe(0);
    expect(bookedShare(hoursBands, rangeMask(clock(480), clock(600)))).toBe(0.5);
    // What is booked outside hours does not count as working time.
    expect(bookedShare(hoursBands, rangeMask(clock(600), clock(900)))).toBe(0.5);
    expect(bookedShare([], rangeMask(0, 10))).toBeNull();
  });
});
