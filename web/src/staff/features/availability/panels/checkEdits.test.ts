import type { WireEdit } from '@zaguan/contracts/availability';
import { expect, it } from 'vitest';
import { faultWords } from '../../../words.faults.en.ts';
import { checkEdits } from './checkEdits.ts';
import { DEFAULT_TERMS, readHoursForm, type HoursFormValues } from './hoursForm.ts';

const SITE = '00000000-0000-4000-8000-000000000001';

const faultsOf = (...edits: WireEdit[]) => {
  const checked = checkEdits({ edits });
  return checked.ok ? {} : checked.faults;
};
const faultsOfHours = (change: Partial<HoursFormValues>) => {
  const pattern = readHoursForm({ ...DEFAULT_TERMS, siteId: SITE, ...change });
  return faultsOf(
    ...pattern.each.map(
      (each): WireEdit => ({
        do: 'add-hours',
        subject: { of: 'resource', id: SITE },
        from: '2027-01-04',
        pattern: each,
      }),
    ),
  );
};

it('lets through what the contract takes', () => {
  expect(faultsOfHours({})).toEqual({});
});

it('puts what the contract says of hours to the fields they are typed into', () => {
  expect(
    faultsOfHours({
      siteId: '',
      weekdays: [],
      until: '2026-12-31',
      places: 51,
      typeIds: [],
      limits: [
        { max: '2', kind: 'any', typeId: '' },
        { max: '-1', kind: 'any', typeId: '' },
      ],
    }),
  ).toMatchObject({
    siteId: 'needed',
    weekdays: 'no-weekday',
    places: 'too_big',
    typeIds: 'no-type',
    'limits.1': 'too_small',
  });
  expect(faultsOfHours({ until: '2026-12-31' })).toEqual({ effectiveUntil: 'until-before-from' });
  expect(faultsOfHours({ releaseHours: '9000' })).toEqual({ releaseHours: 'too_big' });
  expect(faultsOfHours({ releaseHours: '2', releaseTo: { kinds: 'any', typeIds: [], online: true } })).toEqual({
    releaseTypeIds: 'no-type',
  });
});

it('judges the rest, too, of what can’t be read whole', () => {
  const { each, unread } = readHoursForm({ ...DEFAULT_TERMS, weekdays: [], times: '12-8 am' });
  const subject = { of: 'resource' as const, id: '' };
  const checked = checkEdits({
    unread,
    edits: each.map((pattern): WireEdit => ({ do: 'add-hours', subject, from: '2027-01-04', pattern })),
  });
  expect(checked).toEqual({
    ok: false,
    faults: { resourceId: 'needed', siteId: 'needed', weekdays: 'no-weekday', times: 'stretches' },
  });
});

it('says the same of time off, kept-free time and copies', () => {
  const off = { startDate: '2027-01-04', startMinute: 0, endDate: '2027-01-03', endMinute: 1440, reason: '' };
  expect(faultsOf({ do: 'time-off', resourceIds: [], siteId: null, ...off, endDate: '2027-01-05' })).toEqual({
    resourceIds: 'no-person',
  });
  expect(faultsOf({ do: 'close-site', siteId: SITE, ...off })).toEqual({ until: 'until-before-from' });
  expect(faultsOf({ do: 'close-site', siteId: '', ...off, startDate: '' })).toMatchObject({
    siteId: 'needed',
    from: 'no-such-date',
  });
  const rule = {
    weekdays: [1 as const],
    everyWeeks: 1,
    anchorDate: '2027-01-04',
    effectiveFrom: '2027-01-04',
    effectiveUntil: '2027-01-01',
  };
  const free = { resourceIds: [SITE], siteId: null, rule, fromMinute: 720, toMinute: 660, note: '' };
  expect(faultsOf({ do: 'keep-free', ...free })).toEqual({
    times: 'across-midnight',
    effectiveUntil: 'until-before-from',
  });
  expect(faultsOf({ do: 'copy-week', of: '', to: [], from: '2027-01-04' })).toEqual({ of: 'needed', to: 'no-person' });
});

it('has words for what a person can bring about', () => {
  for (const code of ['needed', 'no-weekday', 'no-type', 'no-person', 'until-before-from', 'too_big', 'too_small'])
    expect(faultWords.fault).toHaveProperty(code);
});
