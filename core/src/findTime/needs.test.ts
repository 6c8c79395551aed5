import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { DAY, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { planVisit } from '../booking/index.ts';
import { ClinicIndex, ClinicStore, openStarts } from '../openings/index.ts';
import { NO_NEEDS } from '../patients/index.ts';
import { cellsOf, epochOfCell, wallToEpoch } from '../time/index.ts';
import { lengthOf } from '../visits/index.ts';
import { firstTimes, resizedParts, type Where, withNeeds } from './index.ts';

const now = wallToEpoch(ZONE, DAY, 300);
const WISH = { visitTypeId: 'visit', kind: 'established', channel: 'desk' } as const;
const where: Where = {
  ...{ siteIds: ['site'], providerIds: null, from: DAY, until: DAY, weekdays: null },
  ...{ fromMinute: 0, toMinute: 1440, language: null },
};
const store = () => new ClinicStore(smallClinic({ visitTypes: [VISIT] }));
const times = (clinic: ClinicStore) => firstTimes(new ClinicIndex(clinic, now), WISH, where, 500);

describe('a visit for somebody who needs longer', () => {
  it('is longer by what they need, and starts no later than it can end', () => {
    const usual = times(store());
    const longer = times(withNeeds(store(), [{ visitTypeId: 'visit', needs: { access: [], extraMin: 20 } }]));
    expect(longer[0].end - longer[0].start).toBe(lengthOf(VISIT) + 20);
    expect(longer.length).toBe(usual.length - 4);
    expect(longer[longer.length - 1].end).toBe(usual[usual.length - 1].end);
  });

  it('is the longest of those who come for the same, and leaves other types alone', () => {
    const other = { ...VISIT, id: 'other' };
    const clinic = new ClinicStore(smallClinic({ visitTypes: [VISIT, other] }));
    const { plan } = withNeeds(clinic, [
      { visitTypeId: 'visit', needs: { access: [], extraMin: 10 } },
      { visitTypeId: 'visit', needs: { access: [], extraMin: 15 } },
      { visitTypeId: 'other', needs: NO_NEEDS },
    ]);
    expect(plan.visitTypes.map(lengthOf)).toEqual([lengthOf(VISIT) + 15, lengthOf(VISIT)]);
  });

  it('is the clinic itself where nobody needs anything', () => {
    const clinic = store();
    expect(withNeeds(clinic, [{ visitTypeId: 'visit', needs: NO_NEEDS }])).toBe(clinic);
  });

  it('is offered only where the usual one is too, and can be planned, on random clinics', () => {
    let offered = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const { snapshot, now: at, criteria, siteId, providerId, date } = randomCase(draw);
        const clinic = new ClinicStore(snapshot);
        const extraMin = draw.pick([5, 15, 30]);
        const mine = new ClinicIndex(
          withNeeds(clinic, [{ visitTypeId: criteria.visitTypeId, needs: { access: [], extraMin } }]),
          at,
        );
        const usual = lengthOf(clinic.visitType(criteria.visitTypeId));
        for (const cell of cellsOf(openStarts(mine, criteria, siteId, providerId, date))) {
          offered++;
          const start = epochOfCell(clinic.day(siteId, date), cell);
          const planned = planVisit(mine, criteria, siteId, providerId, start);
          if (!planned.ok) throw new Error('A start that is offered can be planned.');
          expect(planned.plan.end - planned.plan.start).toBe(usual + extraMin);
        }
      }),
      { numRuns: 300, endOnFailure: true },
    );
    expect(offered).toBeGreaterThan(2);
  });
});

describe('a visit that becomes longer or shorter', () => {
  const provider = { key: 'doctor', what: 'provider' as const };
  const room = { key: 'room', what: 'pool' as const, poolKind: 'room' };
  const parts = [
    { lengthMin: 10, needs: [room] },
    { lengthMin: 20, needs: [provider, room] },
    { lengthMin: 30, needs: [room] },
  ];

  it('changes what it is about, the longest part with the provider, and leaves the others', () => {
    const lengths = (lengthMin: number) => resizedParts(parts, lengthMin)?.map((part) => part.lengthMin) ?? null;
    expect(lengths(75)).toEqual([10, 35, 30]);
    expect(lengths(45)).toEqual([10, 5, 30]);
    expect(lengths(40)).toBeNull();
    expect(resizedParts(parts, 60)).toEqual(parts);
  });

  it('changes the longest of all where no part has a provider', () => {
    expect(resizedParts([parts[0], parts[2]], 60)?.map((part) => part.lengthMin)).toEqual([10, 50]);
  });
});
