import { expect, it } from 'vitest';
import { between, dragged, minuteAt, placed, rectangle, shownOf, stepFor } from './geometry.ts';

const shown = { fromMin: 420, toMin: 1080 };

it('places stretches by the clock and cuts off what is not shown', () => {
  expect(placed({ fromMinute: 420, toMinute: 750 }, shown)).toEqual({ left: '0%', width: '50%' });
  expect(placed({ fromMinute: 0, toMinute: 420 }, shown).width).toBe('0%');
});

it('snaps to five minutes where there is room, else to quarters of an hour', () => {
  expect([stepFor(264, shown), stepFor(263, shown)]).toEqual([5, 15]);
  expect(minuteAt(100, 660, shown)).toBe(520);
  expect(minuteAt(10, 99, shown)).toBe(480);
  expect([minuteAt(-5, 660, shown), minuteAt(900, 660, shown)]).toEqual([420, 1080]);
});

it('pulls an end or moves all, never to nothing and never out of the day', () => {
  const span = { fromMinute: 480, toMinute: 720 };
  expect(dragged(span, 'to', 60, 15)).toEqual({ fromMinute: 480, toMinute: 780 });
  expect(dragged(span, 'to', -400, 15)).toEqual({ fromMinute: 480, toMinute: 495 });
  expect(dragged(span, 'from', 300, 15)).toEqual({ fromMinute: 705, toMinute: 720 });
  expect(dragged(span, 'whole', 900, 15)).toEqual({ fromMinute: 1200, toMinute: 1440 });
  expect(dragged(span, 'whole', -900, 15)).toEqual({ fromMinute: 0, toMinute: 240 });
});

it('draws in either direction and covers a rectangle of lanes and days', () => {
  expect([between(600, 480, 15), between(600, 600, 15)]).toEqual([
    { fromMinute: 480, toMinute: 600 },
    { fromMinute: 600, toMinute: 615 },
  ]);
  expect(rectangle(['a', 'b', 'c'], { lane: 2, day: 1 }, { lane: 1, day: 2 })).toEqual([
    { lane: 'b', day: 1 },
    { lane: 'b', day: 2 },
    { lane: 'c', day: 1 },
    { lane: 'c', day: 2 },
  ]);
});

it('shows the usual hours at least, and more where more is worked', () => {
  const day = (fromMinute: number, toMinute: number) => ({ hours: [{ fromMinute, toMinute }] });
  const lanes = [{ days: [day(485, 1020), day(400, 1090)] }] as unknown as Parameters<typeof shownOf>[0];
  expect([shownOf([]), shownOf(lanes)]).toEqual([shown, { fromMin: 360, toMin: 1140 }]);
});
