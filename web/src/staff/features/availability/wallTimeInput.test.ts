import { expect, it } from 'vitest';
import { readWallTime } from './wallTimeInput.ts';

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
