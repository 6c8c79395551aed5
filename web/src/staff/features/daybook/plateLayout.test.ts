import { type Plate, STANDARD_VIEW } from '@zaguan/contracts/daybook';
import type { TFunction } from 'i18next';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { faceOf } from './plateFace.ts';
import { alikeNames, MIN_PLATE_PX, type PlacedPlate, placePlates } from './plateLayout.ts';
import { at, lane, plate, site } from './samples.ts';

const SHOWN = { fromMin: 480, toMin: 1020 };
const PX_PER_MIN = 1.76;
/** A letter is 7 px wide here. */
const widthOf = (words: string) => words.length * 7;
const t = ((key: string, facts?: Record<string, unknown>) =>
  [key, ...Object.values(facts ?? {})].join(' ')) as unknown as TFunction;
const facts = {
  now: at(480),
  typeName: 'Follow-up',
  providerName: 'Dr. Amaya',
  details: STANDARD_VIEW.details,
  timeZone: 'America/Chicago',
  alike: new Set<string>(),
  namesHidden: false,
  delays: [],
  lateAfterMin: 15,
};
const place = (plates: Plate[], more: Partial<Parameters<typeof faceOf>[1]> = {}, pxPerMin = PX_PER_MIN) =>
  placePlates(
    site([]),
    plates.map((each) => ({ plate: each, face: faceOf(each, { ...facts, ...more }, t) })),
    SHOWN,
    pxPerMin,
    widthOf,
  );

describe('plates of a lane', () => {
  it('stand in rows where bars and names leave room, each name whole and beginning at its visit', () => {
    const { placed, rows } = place([plate('a', 480, 490), plate('b', 490, 500), plate('c', 560, 590)]);
    expect(placed.map(({ row }) => row)).toEqual([0, 1, 0]);
    expect(rows).toBe(2);
    expect(placed.map(({ name }) => name)).toEqual(['Yamamoto W.', 'Yamamoto W.', 'Yamamoto W.']);
    expect(placed.map(({ left }) => left)).toEqual([0, 10 * PX_PER_MIN, 80 * PX_PER_MIN]);
    for (const each of placed) expect(each.width).toBeGreaterThanOrEqual(widthOf(each.name));
  });

  it('never lie over each other, reach over the day’s end or are too narrow to hit (WCAG 2.5.8: 24 px)', () => {
    const end = (SHOWN.toMin - SHOWN.fromMin) * PX_PER_MIN;
    const visit = fc.record({
      from: fc.integer({ min: 96, max: 202 }),
      length: fc.integer({ min: 1, max: 12 }),
      family: fc.constantFrom('Li', 'Yamamoto', 'Barrowclough-Fairweather'),
    });
    fc.assert(
      fc.property(fc.array(visit, { maxLength: 40 }), (visits) => {
        const plates = visits
          .sort((a, b) => a.from - b.from)
          .map(({ from, length, family }, i) => ({
            ...plate(String(i), from * 5, Math.min(SHOWN.toMin, (from + length) * 5)),
            shortName: `${family} W.`,
          }));
        const { placed, rows } = place(plates);
        for (const each of placed) {
          expect(each.width).toBeGreaterThanOrEqual(MIN_PLATE_PX);
          expect(each.left).toBeGreaterThanOrEqual(0);
          expect(each.left + each.width).toBeLessThanOrEqual(Math.max(end, each.left + each.bar.width) + MIN_PLATE_PX);
          expect(each.row).toBeLessThan(rows);
        }
        const over = (a: PlacedPlate, b: PlacedPlate) =>
          a !== b && a.row === b.row && a.left < b.left + b.width && b.left < a.left + a.width;
        expect(placed.some((a) => placed.some((b) => over(a, b)))).toBe(false);
      }),
    );
  });

  it('at the day’s end have their names before the bar', () => {
    const [last] = place([plate('a', 1005, 1020)]).placed;
    expect(last.isMirrored).toBe(true);
    expect(last.left + last.width).toBeLessThanOrEqual((SHOWN.toMin - SHOWN.fromMin) * PX_PER_MIN);
    expect(last.left + last.bar.left).toBe((1005 - SHOWN.fromMin) * PX_PER_MIN);
  });

  it('say more where the bar is longer: the whole name, then the type', () => {
    expect(place([plate('a', 480, 570)]).placed[0]).toMatchObject({ name: 'Yamamoto, Wren', detail: null });
    expect(place([plate('a', 480, 620)]).placed[0]).toMatchObject({ name: 'Yamamoto, Wren', detail: 'Follow-up' });
  });

  it('are drawn over what is taken of the lane, which may be less than the visit', () => {
    const short = { ...plate('v', 480, 520), drawn: { start: at(480), end: at(490) } };
    const next = { ...plate('w', 490, 530), drawn: { start: at(490), end: at(500) } };
    expect(place([short, next], {}, 12).rows).toBe(1);
  });
});

describe('what stands on a plate', () => {
  const readiness = { done: 3, total: 5, ready: false, held: false };
  const signs = (change: Partial<Plate>, now = at(470), more: Partial<Parameters<typeof faceOf>[1]> = {}) =>
    faceOf({ ...plate('a', 480, 510), ...change }, { ...facts, now, ...more }, t).signs.map(({ kind, short }) => [
      kind,
      short,
    ]);

  it('is the gravest first: what a clinician must clear, who is late, what is missing', () => {
    expect(signs({ readiness: { ...readiness, held: true } }, at(492))).toEqual([
      ['held', '!'],
      ['late', 'daybook.late 12'],
    ]);
    expect(signs({ readiness }, at(492))).toEqual([
      ['late', 'daybook.late 12'],
      ['open', '3/5'],
    ]);
  });

  it('is not late before it begins, once somebody is here, or when it is over', () => {
    expect(signs({}, at(480))).toEqual([]);
    expect(signs({ status: 'arrived' }, at(492))).toEqual([]);
    expect(signs({}, at(510))).toEqual([]);
    expect(signs({ readiness, status: 'checked-in' })).toEqual([]);
  });

  it('is too late beyond the clinic’s limit, but not for the minutes that the provider is behind', () => {
    expect(signs({}, at(495))).toEqual([['late', 'daybook.late 15']]);
    expect(signs({}, at(496))).toEqual([['too-late', 'daybook.tooLateShort 16']]);
    expect(signs({}, at(496), { lateAfterMin: null })).toEqual([['late', 'daybook.late 16']]);
    const delays = [{ resourceId: 'p', minutes: 20, since: at(470), toCall: [] }];
    expect(signs({ providerId: 'p' }, at(496), { delays })).toEqual([]);
    expect(signs({ providerId: 'other' }, at(496), { delays })).toEqual([['too-late', 'daybook.tooLateShort 16']]);
  });

  it('is how long somebody has been here who is not checked in', () => {
    const here = (minute: number) => signs({ status: 'arrived', waitingSince: at(470) }, at(minute));
    expect(here(470)).toEqual([]);
    expect(here(478)).toEqual([['waits', 'daybook.waits 8']]);
    expect(here(486)).toEqual([['waits-long', 'daybook.waits 16']]);
    // A board that is looked at is not packed anew when nine minutes become ten.
    const after = (minute: number) =>
      place([{ ...plate('a', 480, 510), status: 'arrived', waitingSince: at(470) }], { now: at(minute) }, 1).placed[0]
        .width;
    expect(after(480)).toBe(after(479));
  });

  it('is the whole name where two people read alike, and no name where names are hidden', () => {
    const other = { ...plate('b', 520, 550), patientId: 'other', familyFirst: 'Yamamoto, Wilma' };
    const again = { ...plate('c', 560, 590), patientId: 'same' };
    const same = { ...plate('a', 480, 510), patientId: 'same' };
    expect([...alikeNames([lane([same, again])])]).toEqual([]);
    const alike = alikeNames([lane([same, again]), lane([other])]);
    expect([...alike]).toEqual(['Yamamoto W.']);
    expect(place([other], { alike }).placed[0].name).toBe('Yamamoto, Wilma');
    expect(place([other], { alike, namesHidden: true }).placed[0].name).toBe('daybookView.someone');
    expect(place([{ ...other, kind: 'hold' }], { namesHidden: true }).placed[0].name).toBe('daybook.hold');
  });
});
