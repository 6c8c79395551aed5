import type { LaneDay } from '@zaguan/contracts/availability';
import { describe, expect, it } from 'vitest';
import { painted } from './stroke.ts';

const span = (fromMinute: number, toMinute: number) => ({ fromMinute, toMinute });
const accepts = { visitTypeIds: null, kinds: null, invitedOnly: false };
const hours = (fromMinute: number, toMinute: number, online: [number, number][]) => ({
  ...{ fromMinute, toMinute, hoursId: 'h', changeId: null, places: 1, accepts },
  online: online.map(([a, b]) => span(a, b)),
});
const day = (change: Partial<LaneDay> = {}): LaneDay => ({
  ...{ date: '2026-12-01', hours: [hours(480, 720, [[480, 720]]), hours(780, 1020, [])], cancelled: [], timeOff: [] },
  ...{ keptFree: [], brush: [], visits: 0 },
  ...change,
});
const open = { date: '2026-12-01', open: [span(450, 990)], closed: [] };
const online = (of: LaneDay) => of.hours.map((row) => row.online.map((each) => [each.fromMinute, each.toMinute]));

describe('a stroke of the brush, before the server has answered', () => {
  it('takes what it covers off the patients’ page, in the middle or altogether', () => {
    expect(online(painted(day(), open, span(540, 600), 'desk-only'))).toEqual([
      [
        [480, 540],
        [600, 720],
      ],
      [],
    ]);
    expect(online(painted(day(), open, span(0, 1440), 'desk-only'))).toEqual([[], []]);
  });

  it('shows what it covers within hours and opening hours, and joins it with what was shown', () => {
    expect(online(painted(day(), open, span(700, 1100), 'shown'))).toEqual([[[480, 720]], [[780, 990]]]);
    const half = day({ hours: [hours(480, 720, [[480, 600]])] });
    expect(online(painted(half, open, span(600, 660), 'shown'))).toEqual([[[480, 660]]]);
    // Nobody works between twelve and one.
    expect(online(painted(day(), open, span(720, 780), 'shown'))).toEqual([[[480, 720]], []]);
  });

  it('never shows what is off, kept free or closed', () => {
    const off = day({
      timeOff: [{ ...span(780, 840), id: 'o', reason: '' }],
      keptFree: [{ ...span(900, 930), id: 'k', note: '' }],
    });
    const shut = { ...open, closed: [{ ...span(960, 990), id: 'c', reason: '' }] };
    expect(online(painted(off, shut, span(780, 1020), 'shown'))[1]).toEqual([
      [840, 900],
      [930, 960],
    ]);
  });

  it('lies over older strokes, and leaves what is left of them', () => {
    const brushed = day({ brush: [{ ...span(480, 600), value: 'shown' }] });
    expect(painted(brushed, open, span(540, 660), 'desk-only').brush).toEqual([
      { ...span(480, 540), value: 'shown' },
      { ...span(540, 660), value: 'desk-only' },
    ]);
  });
});
