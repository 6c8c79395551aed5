import { describe, expect, it } from 'vitest';
import { DAY, HOURS, POLICY, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { ClinicIndex, type ClinicSnapshot } from '../openings/index.ts';
import { addDays, wallToEpoch } from '../time/index.ts';
import { onlineReach } from './index.ts';

const at = (minute: number) => wallToEpoch(ZONE, DAY, minute);
const reach = (change: Partial<ClinicSnapshot> = {}, days = 14) =>
  onlineReach(new ClinicIndex(smallClinic(change), at(0)), days);
const reason = (change: Partial<ClinicSnapshot>, days = 14) => {
  const found = reach(change, days);
  expect(found.sites).toEqual([]);
  return found.notOnline[0];
};
const ending = (date: string) => [{ ...HOURS, rule: { ...HOURS.rule, effectiveUntil: date } }];
const DOCTOR = smallClinic().resources[0];

describe('whom patients can book online', () => {
  it('names the sites at which somebody can be booked, with the first start', () => {
    expect(reach()).toEqual({
      sites: [{ siteId: 'site', providerIds: ['doctor'], first: at(480) }],
      withoutProvider: [],
      notOnline: [],
    });
  });

  it('counts a provider whom only new patients, or only established ones, can book', () => {
    for (const kind of ['new', 'established'] as const)
      expect(reach({ policies: [{ ...POLICY, kinds: [kind] }] }).sites).toHaveLength(1);
  });

  it('keeps visits that need nobody apart', () => {
    const visit = {
      ...VISIT,
      parts: [{ lengthMin: 15, needs: [{ key: 'a', what: 'pool' as const, poolKind: 'room' }] }],
    };
    const hours = ['room-a', 'room-b'].map((id) => ({ ...HOURS, id, subject: { of: 'resource' as const, id } }));
    const found = reach({ visitTypes: [visit], workingHours: hours });
    expect(found.sites).toEqual([]);
    expect(found.withoutProvider).toEqual([{ siteId: 'site', typeIds: ['visit'] }]);
  });

  it.each([
    ['the switch at the person', { resources: [{ ...DOCTOR, bookableOnline: false }] }, { code: 'switched-off' }],
    ['no hours at all', { workingHours: [] }, { code: 'no-hours' }],
    ['no type offered', { policies: [{ ...POLICY, offered: false }] }, { code: 'no-type' }],
    ['types of others only', { visitTypes: [{ ...VISIT, providerIds: ['somebody'] }] }, { code: 'no-type' }],
    ['types at other sites only', { visitTypes: [{ ...VISIT, siteIds: ['elsewhere'] }] }, { code: 'no-type' }],
    [
      'the switch at the site',
      { sites: [{ id: 'site', zone: ZONE, bookableOnline: false }] },
      { code: 'site-off', siteId: 'site' },
    ],
    [
      'hours that have ended',
      { workingHours: ending(addDays(DAY, -1)) },
      { code: 'hours-end', siteId: 'site', date: addDays(DAY, -1) },
    ],
    ['hours for the desk only', { workingHours: [{ ...HOURS, online: false }] }, { code: 'desk-only' }],
    [
      'everything taken',
      {
        timeOff: [
          {
            id: 'off',
            resourceId: 'doctor',
            siteId: null,
            startDate: DAY,
            startMinute: 0,
            endDate: addDays(DAY, 60),
            endMinute: 1440,
            status: 'approved' as const,
          },
        ],
      },
      { code: 'nothing-free', siteId: 'site' },
    ],
  ])('names what is in the way: %s', (_, change, wanted) => {
    expect(reason(change as Partial<ClinicSnapshot>)).toEqual({ providerId: 'doctor', reason: wanted });
  });

  it('looks no further than it is asked, nor than the policy lets patients', () => {
    const later = [{ ...HOURS, rule: { ...HOURS.rule, effectiveFrom: addDays(DAY, 5) } }];
    expect(reach({ workingHours: later }, 14).sites[0].first).toBe(wallToEpoch(ZONE, addDays(DAY, 5), 480));
    expect(reason({ workingHours: later }, 4).reason).toEqual({ code: 'nothing-free', siteId: 'site' });
    expect(reason({ workingHours: later, policies: [{ ...POLICY, windowDays: 4 }] }).reason.code).toBe('nothing-free');
  });
});
