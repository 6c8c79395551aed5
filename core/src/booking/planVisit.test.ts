import { expect, it } from 'vitest';
import { ClinicIndex, settlePolicy } from '../openings/index.ts';
import { DAY, POLICY, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { wallToEpoch } from '../time/index.ts';
import { lockNames, planVisit } from './index.ts';

const at = (minute: number) => wallToEpoch(ZONE, DAY, minute);
const WISH = { visitTypeId: 'visit', kind: 'established', channel: 'online' } as const;
const TEST = {
  ...VISIT,
  parts: [
    { lengthMin: 20, needs: [{ key: 'room', what: 'pool' as const, poolKind: 'room' }] },
    { lengthMin: 20, needs: [{ key: 'wait', what: 'pool' as const, poolKind: 'room', sameAs: 'room' }] },
    {
      lengthMin: 15,
      needs: [
        { key: 'end', what: 'pool' as const, poolKind: 'room', sameAs: 'room', turnaroundMin: 5 },
        { key: 'doctor', what: 'provider' as const },
      ],
    },
  ],
};
const taken = (resourceId: string, from: number, to: number) => ({
  resourceId,
  start: at(from),
  end: at(to),
  visitId: 'x',
});
const indexOf = (change: object) => new ClinicIndex(smallClinic({ visitTypes: [TEST], ...change }), at(0));

it('writes one row for each need, with the turnaround in the room’s and no buffer in the provider’s', () => {
  const planned = planVisit(indexOf({}), WISH, 'site', 'doctor', at(540));
  if (!planned.ok) throw new Error('must fit');
  expect(
    planned.plan.occupancy.map((row) => [row.needKey, row.resourceId, row.start - at(540), row.end - at(540)]),
  ).toEqual([
    ['room', 'room-a', 0, 20],
    ['wait', 'room-a', 20, 40],
    ['end', 'room-a', 40, 60],
    ['doctor', 'doctor', 40, 55],
  ]);
  expect([planned.plan.end - at(540), planned.plan.providerStart - at(540)]).toEqual([55, 40]);
});

it('chooses the member whose free stretch is the shortest, so that long ones stay whole', () => {
  const planned = planVisit(
    indexOf({ occupied: [taken('room-b', 480, 530), taken('room-b', 610, 720)] }),
    WISH,
    'site',
    'doctor',
    at(540),
  );
  expect(planned.ok && planned.plan.occupancy[0].resourceId).toBe('room-b');
});

it('moves to another member when the best one can’t serve all bound parts', () => {
  const planned = planVisit(indexOf({ occupied: [taken('room-b', 580, 720)] }), WISH, 'site', 'doctor', at(540));
  expect(planned.ok && planned.plan.occupancy.map((row) => row.resourceId)).toEqual([
    'room-a',
    'room-a',
    'room-a',
    'doctor',
  ]);
});

it('gives the reasons when it does not fit', () => {
  const planned = planVisit(indexOf({ occupied: [taken('doctor', 590, 600)] }), WISH, 'site', 'doctor', at(540));
  expect(!planned.ok && planned.refused.map((answer) => answer.code)).toEqual(['busy']);
});

it('names every resource that may serve, the provider, the buckets and the patient for locking, in order', () => {
  const index = indexOf({
    caps: [{ id: 'cap', bucket: 'provider-type-day', providerId: null, siteId: null, visitTypeId: null, max: 3 }],
  });
  expect(lockNames(index, { ...WISH, patientId: 'me' }, 'site', 'doctor', DAY)).toEqual([
    `cap:cap:doctor:visit:${DAY}`,
    'patient:me',
    'resource:doctor',
    'resource:room-a',
    'resource:room-b',
  ]);
});

it('settles each policy value by itself and names its level: type < site < provider < both', () => {
  const none = { ...POLICY, offered: null, windowDays: null, gridMin: null };
  const rows = [
    { ...POLICY, windowDays: 10 },
    { ...none, id: 's', siteId: 'site', windowDays: 20, gridMin: 15 },
    { ...none, id: 'p', providerId: 'doctor', windowDays: 30 },
    { ...none, id: 'b', siteId: 'site', providerId: 'doctor', leadMin: 60 },
  ];
  const settled = settlePolicy(rows, 'visit', 'site', 'doctor');
  expect([settled.windowDays, settled.gridMin, settled.leadMin, settled.offered]).toEqual([
    { value: 30, level: 'type+provider' },
    { value: 15, level: 'type+site' },
    { value: 60, level: 'type+site+provider' },
    { value: true, level: 'type' },
  ]);
  expect(settlePolicy([], 'visit', 'site', null).offered).toEqual({ value: false, level: 'default' });
});
