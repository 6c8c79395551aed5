import { expect, it } from 'vitest';
import { readStretches, readWallTime } from './typedTimes.ts';

it.each([
  ['8:30 am', 510],
  ['8.30', 510],
  ['830', 510],
  ['8', 480],
  ['1', 780],
  ['6:55', 1135],
  ['7', 420],
  ['16', 960],
  ['4p', 960],
  ['12 am', 0],
  ['12pm', 720],
  ['noon', 720],
  ['midnight', 1440],
  ['24:00', 1440],
])('reads the time “%s”', (text, minute) => {
  expect(readWallTime(text)).toBe(minute);
});

it.each(['', 'x', '8:31', '25', '8:75', '13 pm', '0 am', '24:30'])('does not read “%s” as a time', (text) => {
  expect(readWallTime(text)).toBeNull();
});

it('reads several stretches in one line, and none that run into each other or backwards', () => {
  expect(readStretches('8-12, 1-5')).toEqual([
    { fromMinute: 480, toMinute: 720 },
    { fromMinute: 780, toMinute: 1020 },
  ]);
  expect(readStretches('8:30 am to noon')).toEqual([{ fromMinute: 510, toMinute: 720 }]);
  expect(readStretches('6:30-7')).toEqual([{ fromMinute: 1110, toMinute: 1140 }]);
  expect(['8-12, 11-5', '12-8 am', '8', '8-12-1', '12:30-12:15', ''].map(readStretches)).toEqual(Array(6).fill(null));
});
