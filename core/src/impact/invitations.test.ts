import { expect, it } from 'vitest';
import { DAY, HOURS, POLICY, smallClinic, ZONE } from '../../tests/smallClinic.ts';
import { ClinicStore, type InvitationLimits } from '../openings/index.ts';
import { addDays, wallToEpoch } from '../time/index.ts';
import { invitationsEmptied } from './index.ts';

const NOW = wallToEpoch(ZONE, DAY, 360);
const ANY: InvitationLimits = {
  typeIds: ['visit'],
  ...{ siteIds: null, providerIds: null, hours: null, fromDate: null, untilDate: null },
};
const open = (limits: Partial<InvitationLimits>, n: number, deskTimesToo = false) => ({
  ...{ rules: { ...ANY, ...limits, deskTimesToo }, open: n },
});
const store = (hours: Partial<typeof HOURS> = {}) =>
  new ClinicStore(smallClinic({ workingHours: [{ ...HOURS, ...hours }], policies: [POLICY] }));
const MORNING = [{ weekdays: [1, 2, 3, 4, 5, 6, 7] as const, fromMinute: 480, toMinute: 720 }];
const EARLY = [{ weekdays: [1, 2, 3, 4, 5, 6, 7] as const, fromMinute: 480, toMinute: 540 }];

it('counts the invitations of templates that lose their last time, and of no others', () => {
  const before = store();
  // The doctor begins at ten.
  const after = store({ fromMinute: 600 });
  const count = (...templates: Parameters<typeof invitationsEmptied>[1]) =>
    invitationsEmptied({ before, after, now: NOW }, templates);
  expect(count(open({ hours: EARLY }, 5))).toBe(5);
  expect(count(open({ hours: MORNING }, 5))).toBe(0);
  expect(count(open({ hours: EARLY }, 5), open({}, 7), open({ hours: EARLY, siteIds: ['site'] }, 2))).toBe(7);
  // What finds nothing anyway is not the change's doing, nor is what nobody holds.
  expect(count(open({ siteIds: ['elsewhere'] }, 3), open({ typeIds: ['gone'] }, 3), open({ hours: EARLY }, 0))).toBe(0);
});

it('looks three weeks ahead, at desk times only where the template says so', () => {
  const shown = store();
  const hidden = store({ online: false });
  const at = (before: ClinicStore, after: ClinicStore, deskTimesToo: boolean) =>
    invitationsEmptied({ before, after, now: NOW }, [open({}, 1, deskTimesToo)]);
  expect([at(shown, hidden, false), at(shown, hidden, true)]).toEqual([1, 0]);
  const far = { fromDate: addDays(DAY, 21) };
  expect(invitationsEmptied({ before: shown, after: hidden, now: NOW }, [open(far, 1)])).toBe(0);
  expect(
    invitationsEmptied({ before: shown, after: hidden, now: NOW }, [open({ fromDate: addDays(DAY, 20) }, 1)]),
  ).toBe(1);
});
