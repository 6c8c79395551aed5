import { type Plate, STANDARD_VIEW, type ViewSettings, viewSettings } from '@zaguan/contracts/daybook';
import type { TFunction } from 'i18next';
import { describe, expect, it } from 'vitest';
import { colorOfPlate } from '../components/colors.ts';
import { at, lane, plate, site } from '../samples.ts';
import { laneTotals } from './laneTotals.ts';
import { detailsOf } from './plateDetails.ts';

const t = ((key: string, facts?: Record<string, unknown>) =>
  [key, ...Object.values(facts ?? {})].join(' ')) as unknown as TFunction;

describe('what a Lens says', () => {
  const issuesOf = (more: Partial<Record<keyof ViewSettings, unknown>>) => {
    const read = viewSettings.safeParse({ ...STANDARD_VIEW, ...more });
    return read.success ? [] : read.error.issues.map(({ path, message }) => [path.join('.'), message]);
  };

  it('is whole, and can be drawn', () => {
    expect(issuesOf({})).toEqual([]);
    expect(issuesOf({ hours: 'fixed' })).toEqual([['fromMinute', 'needed']]);
    expect(issuesOf({ hours: 'fixed', fromMinute: 480, toMinute: 500 })).toEqual([['toMinute', 'at-least-an-hour']]);
    expect(issuesOf({ hours: 'fixed', fromMinute: 480, toMinute: 540 })).toEqual([]);
    expect(issuesOf({ details: ['type', 'type'] })).toEqual([['details', 'listed-twice']]);
    expect(issuesOf({ only: [] })).toEqual([['only', 'no-lane']]);
    expect(issuesOf({ leastHourPx: 30 }).map(([path]) => path)).toEqual(['leastHourPx']);
  });
});

describe('what stands behind a name', () => {
  const facts = { typeName: 'Follow-up', providerName: 'Dr. Amaya', timeZone: 'America/Chicago', namesHidden: false };
  const visit: Plate = { ...plate('a', 540, 560), reason: 'Hives', origin: 'self', patientKind: 'new' };

  it('comes in the Lens’s order, and loses its end first where there is no room', () => {
    expect(detailsOf(visit, ['reason', 'type', 'provider'], facts, t)).toEqual([
      ...['Hives · Follow-up · Dr. Amaya', 'Hives · Follow-up', 'Hives'],
    ]);
    expect(detailsOf(visit, ['time', 'length', 'origin', 'kind'], facts, t)[0]).toBe(
      '9:00 am · daybookView.minutes 20 · visit.originShort.self · daybookView.patientKind.new',
    );
    expect(detailsOf({ ...visit, reason: '' }, ['reason'], facts, t)).toEqual([]);
  });

  it('never tells a reason where names are hidden, or of a time that is only held', () => {
    expect(detailsOf(visit, ['reason', 'type'], { ...facts, namesHidden: true }, t)).toEqual(['Follow-up']);
    expect(detailsOf({ ...visit, kind: 'hold' }, ['reason', 'type'], facts, t)).toEqual(['Follow-up']);
  });
});

describe('the color of a visit', () => {
  const of = { type: () => 'plum', person: (id: string | null) => (id === 'p' ? 'ochre' : null) };
  const visit = { ...plate('a', 540, 560), providerId: 'p' };

  it('is what the Lens gives colors to', () => {
    expect(colorOfPlate(visit, 'type', of)).toBe('plum');
    expect(colorOfPlate(visit, 'provider', of)).toBe('ochre');
    expect(colorOfPlate(visit, 'status', of)).not.toBe(colorOfPlate({ ...visit, status: 'arrived' }, 'status', of));
    expect(colorOfPlate(visit, 'origin', of)).not.toBe(colorOfPlate({ ...visit, origin: 'self' }, 'origin', of));
    const readiness = (more: object) =>
      colorOfPlate({ ...visit, readiness: { done: 1, total: 2, ready: false, held: false, ...more } }, 'readiness', of);
    expect(new Set([readiness({}), readiness({ ready: true }), readiness({ held: true })]).size).toBe(3);
  });
});

describe('what is added up of a lane', () => {
  const band = {
    ...{ start: at(540), end: at(720), hoursId: 'h', typeIds: null, kinds: null },
    ...{ invitedOnly: false, places: 1, online: [] },
  };
  const visit = (id: string, from: number, to: number, more: Partial<Plate> = {}): Plate => ({
    ...plate(id, from, to),
    ...{ present: [{ start: at(from), end: at(to) }], providerId: 'r', ...more },
  });
  const of = (plates: Plate[], more: Partial<ReturnType<typeof lane>> = {}) =>
    laneTotals({ ...lane(plates), hoursBands: [band], ...more }, site([]), (id) => (id === 't' ? 140 : null));

  it('counts visits, and each minute once', () => {
    const totals = of([visit('a', 540, 570), visit('b', 560, 600), visit('h', 600, 620, { kind: 'hold' })]);
    expect(totals).toMatchObject({ visits: 2, booked: 80, open: 100 });
  });

  it('leaves out of what is open what is away, kept free or closed', () => {
    const away = [{ start: at(660), end: at(700) }];
    const keptFree = [{ start: at(540), end: at(550) }];
    expect(of([], { away, keptFree }).open).toBe(130);
  });

  it('adds up fees of one’s own visits that take place, and of nobody’s that one gives', () => {
    const visits = [
      visit('own', 540, 560),
      visit('missed', 560, 580, { status: 'noshow' }),
      visit('other', 580, 600, { providerId: 'q' }),
      visit('nobody’s', 600, 610, { providerId: null }),
      visit('free', 610, 620, { visitTypeId: 'u' }),
    ];
    expect(of(visits).feesUsd).toBe(280);
    // In a room all of them take place.
    expect(of(visits, { kind: 'room' }).feesUsd).toBe(420);
  });
});
