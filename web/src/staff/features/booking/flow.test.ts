import { describe, expect, it } from 'vitest';
import { foundOf, findText } from './foundText.ts';
import {
  bookingOf,
  boundsOf,
  EMPTY_FLOW,
  type Flow,
  groupKindOf,
  groupOf,
  visitsOf,
  type Wanted,
  wantedOf,
} from './flow.ts';
import { addedPlace, canRemove, placedAt, removedNeed, withLength } from './ownPartsChange.ts';
import { staleWith } from './useFlow.ts';

const WHO = { patientId: 'ada', visitTypeId: 'follow' };
const flowWith = (change: Partial<Flow>): Flow => ({ ...EMPTY_FLOW, flowId: 'f', key: 'k', ...WHO, ...change });
const TIME = { siteId: 'canal', providerId: 'amaya', start: '2026-12-02T15:00:00.000Z' };
const LATER = { ...TIME, start: '2026-12-02T15:20:00.000Z' };
const wanted = wantedOf(flowWith({})) as Wanted;

describe('a booking under way', () => {
  it('is asked for once who and what are known, with who pays only where that is said', () => {
    expect(wantedOf(flowWith({ patientId: null }))).toBeNull();
    expect(wantedOf(flowWith({ visitTypeId: '' }))).toBeNull();
    expect(wanted).toEqual({ ...WHO, parts: null });
    expect(wantedOf(flowWith({ payerId: 'tallgrass', hasReferral: true }))).toMatchObject({
      ...{ payerId: 'tallgrass', hasReferral: true, hasAuthorization: false },
    });
  });

  it('is one visit, a household, a series, or one with those that must follow', () => {
    const others = [{ patientId: 'ben', visitTypeId: '' }];
    const repeat = { everyWeeks: 4, count: 3, toleranceDays: 2, sameProvider: true };
    expect(groupKindOf(flowWith({}), [])).toBeNull();
    expect(groupKindOf(flowWith({}), ['reading'])).toBe('linked');
    expect(groupKindOf(flowWith({ repeat }), [])).toBe('series');
    expect(groupKindOf(flowWith({ others }), [])).toBe('household');
    expect(visitsOf(flowWith({ time: TIME }), wanted, null)).toEqual([{ ...wanted, ...TIME }]);
    expect(visitsOf(flowWith({}), wanted, null)).toEqual([]);
  });

  it('books each of a household for what they come for, and puts who waits onto the Bench', () => {
    const parts = [{ lengthMin: 40, needs: [] }];
    const flow = flowWith({
      parts,
      ...{ reason: 'Rash', requestId: 'r', because: 'They came from far' },
      others: [
        { patientId: 'ben', visitTypeId: '' },
        { patientId: 'cy', visitTypeId: 'shot' },
      ],
    });
    const found = [TIME, LATER, LATER].map((time, i) => ({
      ...{ ...time, date: '2026-12-02', end: time.start, visitTypeId: i === 2 ? 'shot' : 'follow' },
    }));
    const group = groupOf(flow, found as never).with(2, {
      ...LATER,
      patientId: 'cy',
      visitTypeId: 'shot',
      toBench: true,
    });
    const sent = bookingOf({ ...flow, group }, wantedOf(flow) as Wanted, 'household', {
      broken: [[], ['busy']],
      askedBy: (patientId) => (patientId === 'ben' ? 'mother' : null),
    });
    expect(sent).toMatchObject({
      ...{ key: 'k', flowId: 'f', group: 'household' },
      visits: [
        { patientId: 'ada', parts, requestId: 'r', askedBy: null, waive: null, start: TIME.start },
        { patientId: 'ben', parts: null, askedBy: 'mother', waive: { codes: ['busy'], reason: 'They came from far' } },
      ],
      bench: [{ patientId: 'cy', visitTypeId: 'shot', siteId: 'canal', reason: 'Rash' }],
    });
    expect(sent.visits[1]).not.toHaveProperty('requestId');
  });

  it('keeps a request and a wish with the patient they are about, though that one waits', () => {
    const flow = flowWith({ others: [{ patientId: 'ben', visitTypeId: '' }], requestId: 'r', sooner: {} as never });
    const group = [
      { ...TIME, patientId: null, visitTypeId: 'follow', toBench: true },
      { ...LATER, patientId: 'ben', visitTypeId: 'follow', toBench: false },
    ];
    const sent = bookingOf({ ...flow, group }, wanted, 'household', { broken: [[]], askedBy: () => null });
    expect(sent.visits).toHaveLength(1);
    expect(sent.visits[0]).not.toHaveProperty('requestId');
    expect(sent.bench).toMatchObject([{ patientId: 'ada', requestId: 'r' }]);
  });

  it('looks first where and when a request wants it, and further once its last date is over', () => {
    const request = { siteId: 'mesa', providerId: null, fromDate: '2026-12-05', dueDate: '2026-12-18' };
    expect(boundsOf('2026-12-01', undefined)).toMatchObject({ siteIds: [], from: '2026-12-01', days: 42 });
    expect(boundsOf('2026-12-01', request)).toEqual({
      ...{ siteIds: ['mesa'], providerIds: null, from: '2026-12-05', days: 14 },
    });
    expect(boundsOf('2026-12-18', request).days).toBe(1);
    expect(boundsOf('2026-12-19', request)).toMatchObject({ from: '2026-12-19', days: 42 });
    expect(boundsOf('2026-01-01', { ...request, fromDate: '2026-01-01' }).days).toBe(62);
  });

  it('forgets what a change makes untrue, and nothing else', () => {
    const before = flowWith({ parts: [], group: [], others: [{ patientId: 'ben', visitTypeId: '' }], payerId: 'x' });
    expect(staleWith(before, { reason: 'x' })).toEqual({});
    expect(staleWith(before, { visitTypeId: 'follow' })).toEqual({});
    expect(staleWith(before, { visitTypeId: 'shot' })).toEqual({ parts: null, group: null });
    expect(staleWith(before, { patientId: 'ben' })).toMatchObject({ others: [], payerId: '', group: null });
    expect(staleWith(before, { how: 'side-by-side' })).toEqual({ group: null });
  });

  it('comes through an address as it went in, and not at all where the address says something else', () => {
    const id = (n: number) => `00000000-0000-4000-8000-00000000000${n}`;
    const visit = { visitTypeId: id(1), siteId: id(2), providerId: null, start: TIME.start };
    const found = {
      ...{ how: 'back-to-back' as const, others: [{ patientId: id(3), visitTypeId: id(1) }], repeat: null },
      group: [
        { ...visit, patientId: null },
        { ...visit, patientId: id(3) },
      ],
    };
    expect(foundOf(findText(found))).toEqual({
      ...found,
      group: found.group.map((each) => ({ ...each, toBench: false })),
    });
    for (const text of ['', '{', 'null', '{"how":"back-to-back"}', findText({ ...found, group: [found.group[0]] })])
      expect(foundOf(text)).toBeNull();
  });
});

describe('the parts of one visit', () => {
  const parts = [
    { lengthMin: 10, needs: [{ key: 'room', what: 'pool' as const, poolKind: 'exam-room' }] },
    {
      lengthMin: 20,
      needs: [
        { key: 'doctor', what: 'provider' as const },
        { key: 'same', what: 'pool' as const, poolKind: 'exam-room', sameAs: 'room' },
      ],
    },
  ];

  it('are lengthened in steps, between the least and the most', () => {
    expect([12, 13, 0, Number.NaN, 9999].map((min) => withLength(parts, 0, min || 0)[0].lengthMin)).toEqual([
      10, 15, 5, 5, 720,
    ]);
  });

  it('take place elsewhere, what is bound to a room with it', () => {
    const moved = placedAt(parts, 0, 'room', 'resource:r3');
    expect(moved[0].needs).toEqual([{ key: 'room', what: 'resource', resourceId: 'r3' }]);
    expect(moved[1].needs[1]).toEqual({ key: 'same', sameAs: 'room', what: 'resource', resourceId: 'r3' });
    expect(addedPlace(parts, 1, 'pool:scale')[1].needs.at(-1)).toEqual({
      key: 'added-1',
      what: 'pool',
      poolKind: 'scale',
    });
    expect(removedNeed(parts, 0, 'room')[1].needs[1]).not.toHaveProperty('sameAs');
  });

  it('go only where somebody still sees the patient and nothing is bound to them', () => {
    expect([canRemove(parts, 0), canRemove(parts, 1)]).toEqual([false, false]);
    expect(canRemove(removedNeed(parts, 0, 'room'), 0)).toBe(true);
  });
});
