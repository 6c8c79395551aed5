import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawFrom } from '../../tests/draw.ts';
import { randomCase } from '../../tests/randomClinic.ts';
import { DAY, HOURS, otherVisit, smallClinic, VISIT, ZONE } from '../../tests/smallClinic.ts';
import { ClinicIndex, ClinicStore, CODES, frameOf, openStarts, whyNot } from '../openings/index.ts';
import { checkBookedVisit } from '../impact/index.ts';
import { epochOfCell, hasCell, wallToEpoch } from '../time/index.ts';
import { mayWaive, planVisit } from './index.ts';

const RUNS = Number(process.env.ZAGUAN_RUNS ?? 300);
const at = (minute: number) => wallToEpoch(ZONE, DAY, minute);
const DESK = { visitTypeId: 'visit', kind: 'established', channel: 'desk' } as const;

describe('booking against rules', () => {
  it(`works with the rules that Why not? names, and with none fewer but for a few, on ${RUNS} random starts`, () => {
    let against = 0;
    let needless = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const c = randomCase(draw);
        const index = new ClinicIndex(c.snapshot, c.now);
        const start = epochOfCell(frameOf(index, c.criteria, c.siteId, c.providerId, c.date).day, draw.int(60, 200));
        const failed = whyNot(index, c.criteria, c.siteId, c.providerId, start)
          .answers.filter(({ passed }) => !passed)
          .map(({ code }) => code);
        const plan = (waived: readonly (typeof CODES)[number][]) =>
          planVisit(index, c.criteria, c.siteId, c.providerId, start, waived);
        // What has nobody to serve it can't be booked, whatever is set aside.
        if (failed.includes('never-together') || failed.includes('not-performed')) return;
        expect(plan(failed).ok).toBe(true);
        if (!failed.length) return;
        against++;
        const left = draw.pick(failed);
        const fewer = plan(failed.filter((code) => code !== left));
        // A rule set aside for one need is for all: now and then that makes another one needless.
        if (fewer.ok) needless++;
      }),
      { numRuns: RUNS },
    );
    expect(against).toBeGreaterThan(RUNS / 4);
    expect(needless).toBeLessThan(against / 20);
  }, 300_000);

  it('never sets aside what is for safety, what is over, and what nobody can serve', () => {
    expect(CODES.filter((code) => !mayWaive(code))).toEqual([
      'past',
      'not-performed',
      'outside-site-hours',
      'not-offered',
      'kind-not-offered',
      'not-bookable-online',
      'no-new-patients',
      'too-soon',
      'too-far',
      'off-grid',
      'invitation-type',
      'invitation-site',
      'invitation-provider',
      'invitation-dates',
      'invitation-hours',
      'desk-only',
      'nobody-present',
      'patient-elsewhere',
      'never-together',
    ]);
  });

  it('leaves neither the visit booked twice at one time nor the one beside it among those to move', () => {
    const first = otherVisit(540, 570, { id: 'first' });
    const second = otherVisit(550, 580, { id: 'second', patientId: 'else', waived: ['busy'] });
    const rows = [first, second].map(({ id, start, end }) => ({ visitId: id, resourceId: 'doctor', start, end }));
    const check = (visits: (typeof first)[]) => {
      const store = new ClinicStore(smallClinic({ visits, occupied: rows }));
      return visits.map((visit) => checkBookedVisit(store, at(0), visit)?.reasons.map(({ code }) => code) ?? []);
    };
    expect(check([first, second])).toEqual([[], []]);
    // A time that was taken twice without anybody's reason is one.
    expect(check([first, { ...second, waived: null }])).toEqual([['busy'], ['busy']]);
    // One reason excuses what it names and nothing else.
    const closed = new ClinicStore(smallClinic({ visits: [second], occupied: [rows[1]], workingHours: [] }));
    expect(checkBookedVisit(closed, at(0), second)?.reasons.map(({ code }) => code)).toEqual(['no-hours']);
  });
});

describe('a visit with parts of its own', () => {
  it(`is searched and planned as if its type had them, on ${RUNS / 2} random clinics`, () => {
    let withOpenings = 0;
    fc.assert(
      fc.property(fc.gen(), (gen) => {
        const draw = drawFrom(gen);
        const c = randomCase(draw);
        const { parts } = draw.pick(randomCase(draw).snapshot.visitTypes);
        const changed = {
          ...c.snapshot,
          visitTypes: c.snapshot.visitTypes.map((type) =>
            type.id === c.criteria.visitTypeId ? { ...type, parts } : type,
          ),
        };
        const own = new ClinicIndex(c.snapshot, c.now);
        const all = new ClinicIndex(changed, c.now);
        const criteria = { ...c.criteria, parts };
        // Every provider: a random clinic seldom has a time for one of them.
        const providers = c.snapshot.resources.filter(({ kind }) => kind === 'provider');
        for (const { id } of providers) {
          const starts = openStarts(own, criteria, c.siteId, id, c.date);
          expect(starts).toEqual(openStarts(all, c.criteria, c.siteId, id, c.date));
          const cell = [...Array(288).keys()].find((each) => hasCell(starts, each));
          if (cell === undefined) continue;
          withOpenings++;
          const start = epochOfCell(own.day(c.siteId, c.date), cell);
          expect(planVisit(own, criteria, c.siteId, id, start)).toEqual(
            planVisit(all, c.criteria, c.siteId, id, start),
          );
        }
      }),
      { numRuns: RUNS / 2 },
    );
    expect(withOpenings).toBeGreaterThan(RUNS / 50);
  }, 300_000);

  it('is judged by them when the schedule changes', () => {
    const long = otherVisit(660, 720, {
      parts: [{ lengthMin: 60, needs: [{ key: 'doctor', what: 'provider' }] }],
    });
    const store = (toMinute: number) =>
      new ClinicStore(
        smallClinic({
          visits: [long],
          occupied: [{ visitId: long.id, resourceId: 'doctor', start: long.start, end: long.end }],
          workingHours: [{ ...HOURS, toMinute }],
          visitTypes: [VISIT],
        }),
      );
    expect(checkBookedVisit(store(720), at(0), long)).toBeNull();
    expect(checkBookedVisit(store(700), at(0), long)?.reasons.map(({ code }) => code)).toEqual(['no-hours']);
    expect(planVisit(new ClinicIndex(store(720), at(0)), DESK, 'site', 'doctor', at(480)).ok).toBe(true);
  });
});
