import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { expect, it } from 'vitest';
import { editAbout } from './editAbout.ts';

const week = {
  hours: [{ id: 'h', subject: { of: 'resource', id: 'amaya' }, fromMinute: 480, toMinute: 720 }],
} as unknown as ScheduleWeek;
const names: Record<string, string> = {
  amaya: 'Dr. Amaya',
  lund: 'Teo Lund',
  dray: 'Dr. Dray',
  osei: 'Abena Osei',
  canal: 'Canal Row',
};
const about = (edit: object) => editAbout(edit, week, (id) => names[id ?? ''] ?? '');

it('tells one edit from another by whom, when and which times', () => {
  expect(about({ do: 'change-hours', hoursId: 'h', to: { toMinute: 660 } })).toBe('Dr. Amaya · 8:00 am – 11:00 am');
  expect(about({ do: 'end-hours', hoursId: 'h' })).toBe('Dr. Amaya · 8:00 am – 12:00 pm');
  expect(
    about({ do: 'add-hours', subject: { of: 'resource', id: 'lund' }, pattern: { fromMinute: 540, toMinute: 600 } }),
  ).toBe('Teo Lund · 9:00 am – 10:00 am');
  expect(
    about({ do: 'time-off', resourceIds: ['amaya', 'lund', 'dray', 'osei'], siteId: null, startDate: '2027-01-04' }),
  ).toBe('Dr. Amaya, Teo Lund, Dr. Dray +1 · Mon, Jan 4');
  expect(about({ do: 'close-site', siteId: 'canal', startDate: '2027-01-04' })).toBe('Canal Row · Mon, Jan 4');
  expect(about({ do: 'copy-week', of: 'dray', to: ['lund'], from: '2027-01-04' })).toBe('Dr. Dray');
  const strokes = [{ resourceId: 'lund', date: '2027-01-05', fromMinute: 480, toMinute: 720 }];
  expect(about({ do: 'brush', siteId: 'canal', strokes, value: 'shown' })).toBe('Teo Lund · Tue, Jan 5');
});

it('says nothing of what it can’t read, or of hours that are not there any more', () => {
  expect(about({ do: 'change-hours', hoursId: 7 })).toBe('');
  expect(about({ do: 'end-hours', hoursId: 'gone' })).toBe('');
});
