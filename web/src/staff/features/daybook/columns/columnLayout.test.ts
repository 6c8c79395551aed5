import type { Plate } from '@zaguan/contracts/daybook';
import { STANDARD_VIEW } from '@zaguan/contracts/daybook';
import type { TFunction } from 'i18next';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { faceOf } from '../plateFace.ts';
import { MIN_PLATE_PX } from '../plateLayout.ts';
import { at, plate, site } from '../samples.ts';
import { MIN_COLUMN_PX, placeColumn } from './columnLayout.ts';

const SHOWN = { fromMin: 480, toMin: 1020 };
/** Ten minutes are 24 px. */
const PX_PER_MIN = 2.4;
const INSET = { left: 7, right: 4 };
/** A letter is 7 px wide here. */
const widthOf = (words: string) => words.length * 7;
const t = ((key: string, facts?: Record<string, unknown>) =>
  [key, ...Object.values(facts ?? {})].join(' ')) as unknown as TFunction;
const facts = {
  ...{ now: at(480), typeName: 'Follow-up', providerName: '', details: STANDARD_VIEW.details },
  ...{ timeZone: 'America/Chicago', alike: new Set<string>(), namesHidden: false, delays: [], lateAfterMin: 15 },
};
const place = (plates: Plate[], shown = SHOWN) =>
  placeColumn(
    site([]),
    plates.map((each) => ({ plate: each, face: faceOf(each, facts, t) })),
    shown,
    PX_PER_MIN,
    widthOf,
    INSET,
  );

describe('plates of a column', () => {
  it('stand one below the other, as high as their minutes, the column no wider than it must be', () => {
    const { placed, width } = place([plate('a', 480, 500), plate('b', 500, 560)]);
    expect(placed.map(({ top, height }) => [top, height])).toEqual([
      [0, 46],
      [48, 142],
    ]);
    expect(new Set(placed.map(({ left }) => left)).size).toBe(1);
    expect(width).toBeLessThan(2 * MIN_COLUMN_PX);
  });

  it('stand side by side where they are at once, and the column grows so that each name can be read', () => {
    const three = [plate('a', 480, 540), plate('b', 490, 520), plate('c', 500, 530), plate('d', 540, 560)];
    const { placed, width } = place(three);
    const [a, b, c, d] = placed.map(({ left }) => left);
    expect([a < b, b < c, d === a]).toEqual([true, true, true]);
    expect(width).toBeGreaterThan(3 * widthOf('Yamamoto W.'));
    // Whoever stands alone has all of it.
    expect(placed[3].width).toBeGreaterThan(2 * placed[0].width);
  });

  it('say what they come for where there is a line for it, and more where there are more', () => {
    const [short, long] = place([plate('a', 480, 490), plate('b', 520, 580)]).placed;
    expect([short.detail, short.lines]).toEqual([null, 0]);
    expect(long.detail).toContain('Follow-up');
    expect(long.lines).toBeGreaterThan(3);
  });

  it('show of a visit that reaches out of the hours what lies within', () => {
    const { placed } = place([plate('a', 400, 600), plate('b', 660, 900)], { fromMin: 480, toMin: 720 });
    expect(placed.map(({ top, height }) => [top, Math.round(top + height)])).toEqual([
      [0, 120 * PX_PER_MIN - 2],
      [180 * PX_PER_MIN, 240 * PX_PER_MIN - 2],
    ]);
  });

  it('never lie over each other, leave the column, or are too small to hit (WCAG 2.5.8: 24 px)', () => {
    const visit = fc.record({
      from: fc.integer({ min: 96, max: 200 }),
      length: fc.integer({ min: 1, max: 12 }),
      family: fc.constantFrom('Li', 'Yamamoto', 'Barrowclough-Fairweather'),
    });
    fc.assert(
      fc.property(fc.array(visit, { maxLength: 14 }), (visits) => {
        const plates = visits
          .map(({ from, length, family }, i) => ({
            ...plate(`p${i}`, from * 5, from * 5 + length * 5),
            ...{ shortName: `${family} W.`, familyFirst: `${family}, Wren`, patientId: `${i}` },
          }))
          .toSorted((a, b) => a.start.localeCompare(b.start));
        const { placed, width } = place(plates);
        for (const each of placed) {
          expect(each.height).toBeGreaterThanOrEqual(MIN_PLATE_PX);
          expect(each.left).toBeGreaterThanOrEqual(INSET.left);
          expect(each.left + each.width).toBeLessThanOrEqual(width - INSET.right + 0.01);
          expect(each.width).toBeGreaterThan(widthOf(each.name));
        }
        placed.forEach((a, i) => {
          for (const b of placed.slice(i + 1)) {
            const isBeside = a.left + a.width <= b.left + 0.01 || b.left + b.width <= a.left + 0.01;
            const isBelow = a.top + a.height <= b.top + 0.01 || b.top + b.height <= a.top + 0.01;
            expect(isBeside || isBelow).toBe(true);
          }
        });
      }),
    );
  });
});
