import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { DAY, otherVisit, smallClinic, ZONE } from '../../tests/smallClinic.ts';
import { ClinicIndex, type SearchCriteria } from '../openings/index.ts';
import { epochOfCell, wallToEpoch } from '../time/index.ts';
import { judgeMove, planVisit, snapshotForMove, whereItFits } from './index.ts';

const RUNS = Number(process.env.ZAGUAN_RUNS ?? 300);
/** Of each random clinic. */
const STARTS = 10;
const at = (minute: number) => wallToEpoch(ZONE, DAY, minute);

/** What stands in the snapshot goes to a browser as it is: as text, and back. */
const asSent = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

describe('where a visit fits', () => {
  it(`is every start that the move's plan takes and no other, by what a browser is given, on ${RUNS} random starts`, () => {
    let fitting = 0;
    let refusing = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const c = randomCase(draw);
        const moved = draw.pick([null, ...c.snapshot.visits]);
        const type = draw.pick(c.snapshot.visitTypes);
        const criteria: SearchCriteria = {
          visitTypeId: c.criteria.visitTypeId,
          parts: draw.chance(30) ? type.parts : null,
          kind: c.criteria.kind,
          channel: 'desk',
          patientId: moved?.patientId ?? null,
          ignoreVisitId: moved?.id ?? null,
        };
        const whole = new ClinicIndex(c.snapshot, c.now);
        const given = new ClinicIndex(asSent(snapshotForMove(c.snapshot, criteria, c.date)), c.now);
        const siteIds = c.snapshot.sites.map(({ id }) => id);
        const fits = whereItFits(given, criteria, siteIds, c.date);
        for (let n = 0; n < STARTS; n++) {
          const siteId = draw.pick(siteIds);
          const found = fits.find((row) => row.siteId === siteId && row.providerId === c.providerId);
          // Half of them where it fits: a random start seldom does.
          const start =
            found && draw.int(0, 1)
              ? draw.pick([...found.starts])
              : epochOfCell(whole.day(siteId, c.date), draw.int(60, 240));
          const planned = planVisit(whole, criteria, siteId, c.providerId, start);
          expect(found?.starts.includes(start) ?? false).toBe(planned.ok);
          const { refused } = judgeMove(given, criteria, { siteId, providerId: c.providerId, start });
          // Of who doesn't perform it nothing more is known.
          if (refused.some(({ code }) => code === 'not-performed')) expect(planned.ok).toBe(false);
          else expect(refused).toEqual(planned.ok ? [] : planned.refused);
          if (planned.ok) fitting++;
          else refusing++;
        }
      }),
      { numRuns: RUNS / STARTS },
    );
    // Both are looked at, however the draw falls: few of a hundred clinics have room for what is moved.
    expect(fitting).toBeGreaterThan(RUNS / 100);
    expect(refusing).toBeGreaterThan(RUNS / 100);
  }, 300_000);

  it('tells a rule that a reason sets aside from one that none does', () => {
    const taken = otherVisit(600, 630, { patientId: 'other' });
    const rows = [{ visitId: taken.id, resourceId: 'doctor', start: taken.start, end: taken.end }];
    const index = new ClinicIndex(smallClinic({ visits: [taken], occupied: rows }), at(0));
    const criteria = { visitTypeId: 'visit', kind: 'established', channel: 'desk' } as const;
    const judge = (minute: number) =>
      judgeMove(index, criteria, { siteId: 'site', providerId: 'doctor', start: at(minute) });
    expect(judge(540)).toEqual({ refused: [], byReason: false });
    expect(judge(600)).toMatchObject({ refused: [{ code: 'busy' }], byReason: true });
    const over = new ClinicIndex(smallClinic(), at(700));
    expect(judgeMove(over, criteria, { siteId: 'site', providerId: 'doctor', start: at(540) })).toMatchObject({
      refused: [{ code: 'past' }],
      byReason: false,
    });
    expect(() => judge(541)).toThrow(RangeError);
  });
});

describe('what a browser is given', () => {
  it('names no other patient, and no reason or note', () => {
    const mine = otherVisit(600, 630, { id: 'mine', patientId: 'me' });
    const other = otherVisit(660, 690, { id: 'other', patientId: 'somebody' });
    const away = { startDate: DAY, startMinute: 0, endDate: DAY, endMinute: 60 } as const;
    const clinic = smallClinic({
      visits: [mine, other],
      // As the database's rows have them.
      timeOff: [{ id: 'off', resourceId: 'doctor', siteId: null, reason: 'Surgery', ...away } as never],
      closures: [{ id: 'shut', siteId: 'site', reason: 'Burst pipe', ...away } as never],
    });
    const text = JSON.stringify(snapshotForMove(clinic, { visitTypeId: 'visit', patientId: 'me' }, DAY));
    expect(text).not.toMatch(/somebody|Surgery|Burst pipe/);
    expect(text).toContain('"patientId":"me"');
  });
});
