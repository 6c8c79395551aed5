import { describe, expect, it } from 'vitest';
import { addDays, type LocalDate } from '../time/index.ts';
import {
  DAY_PARTS,
  faultOfWords,
  fillWords,
  INVITATION_STATES,
  type InvitationFacts,
  inPart,
  invitationState,
  NOT_INVITED,
  PACE,
  paced,
  partsOf,
  textOf,
  visitInstead,
  type WantedFacts,
  whyNotInvited,
} from './index.ts';

const MONDAY = '2026-11-30';

describe('how many invitations go to one number (47 CFR 64.1200(a)(9)(iv): one a day, three a week)', () => {
  it('lets the first go at once, and the second wait until tomorrow', () => {
    expect(paced([], MONDAY)).toEqual({ on: MONDAY, by: null });
    expect(paced([MONDAY], MONDAY)).toEqual({ on: addDays(MONDAY, 1), by: 'one-a-day' });
  });

  it('spreads a household of five over two weeks', () => {
    const dates: LocalDate[] = [];
    for (let i = 0; i < 5; i++) dates.push(paced(dates, MONDAY).on);
    expect(dates.map((date) => Number(date.slice(8)))).toEqual([30, 1, 2, 7, 8]);
    expect(paced(dates.slice(0, 3), MONDAY).by).toBe('three-a-week');
  });

  it('looks ahead too: what is planned for later counts', () => {
    const later = [2, 3, 4].map((days) => addDays(MONDAY, days));
    // Any seven days that hold today hold all three of them.
    expect(paced(later, MONDAY)).toEqual({ on: addDays(MONDAY, 9), by: 'three-a-week' });
    expect(
      paced(
        [6, 7, 8].map((days) => addDays(MONDAY, days)),
        MONDAY,
      ),
    ).toEqual({ on: MONDAY, by: null });
  });

  it('never breaks a limit, and never waits longer than it must (all ways to send up to four in ten days)', () => {
    const span = 10;
    const fits = (dates: readonly LocalDate[]) =>
      dates.every((date) => dates.filter((other) => other === date).length <= PACE.aDay) &&
      dates.every(
        (date) =>
          dates.filter((other) => other >= date && other <= addDays(date, PACE.weekDays - 1)).length <= PACE.aWeek,
      );
    let tried = 0;
    for (let bits = 0; bits < 2 ** span; bits++) {
      const dates = [...Array(span).keys()].filter((day) => (bits >> day) & 1).map((day) => addDays(MONDAY, day));
      if (dates.length > 4 || !fits(dates)) continue;
      tried++;
      const { on } = paced(dates, MONDAY);
      expect(fits([...dates, on])).toBe(true);
      for (let date = MONDAY; date < on; date = addDays(date, 1)) expect(fits([...dates, date])).toBe(false);
    }
    expect(tried).toBeGreaterThan(200);
  });
});

describe('words of an invitation', () => {
  it.each([
    ['Hi {name}, book here: {link}', null],
    ['Please call {phone}.', { code: 'no-link' }],
    ['{Name}: {link}', { code: 'unknown-placeholder', name: 'Name' }],
    ['{link} {}', { code: 'unknown-placeholder', name: '' }],
  ])('%s', (words, fault) => expect(faultOfWords(words)).toEqual(fault));

  it('fills in what is known and leaves the link for later', () => {
    const words = '{clinic}: {name}, you are due. {link} or call {phone}';
    expect(fillWords(words, { clinic: 'Brindlewood', name: 'Ana', phone: '555-0100' })).toBe(
      'Brindlewood: Ana, you are due. {link} or call 555-0100',
    );
    // A name that looks like a placeholder is not filled in a second time.
    expect(fillWords('{name} {link}', { name: '{phone}', phone: '1' })).toBe('{phone} {link}');
  });

  it('says once how to get no more of them', () => {
    expect(textOf('Book: {link} ', 'en')).toBe('Book: {link} STOP to opt out.');
    expect(textOf('Book: {link} Reply STOP to end.', 'en')).toBe('Book: {link} Reply STOP to end.');
    expect(textOf('Pida su cita: {link}', 'es')).toBe('Pida su cita: {link} ALTO para no recibir textos.');
    expect(textOf('Nonstop {link}', 'en')).toContain('STOP to opt out.');
  });

  it('counts the parts with the link in its length (TS 23.038: 160 letters alone, 153 joined)', () => {
    const words = (letters: number) => `${'a'.repeat(letters)}{link}`;
    expect(partsOf(words(120), 40)).toBe(1);
    expect(partsOf(words(121), 40)).toBe(2);
    expect(partsOf(words(266), 40)).toBe(2);
    expect(partsOf(words(267), 40)).toBe(3);
  });
});

describe('who gets no invitation', () => {
  const OPEN: WantedFacts = {
    ...{ status: 'active', holdsOne: false, coming: [], comingTypeIds: ['follow'], moves: false, uses: 1 },
    ...{ isDue: true, reach: 'open' },
  };
  const BROKEN: Record<(typeof NOT_INVITED)[number], Partial<WantedFacts>> = {
    deceased: { status: 'deceased' },
    inactive: { status: 'inactive' },
    'invitation-live': { holdsOne: true },
    'booked-already': { coming: [{ typeId: 'follow', date: '2026-12-04' }] },
    'not-due': { isDue: false },
    'no-way-to-reach': { reach: 'none' },
    'opted-out': { reach: 'opted-out' },
  };

  it('is nobody where nothing stands in the way', () => {
    expect(whyNotInvited(OPEN)).toBeNull();
    expect(whyNotInvited({ ...OPEN, isDue: null, status: 'new' })).toBeNull();
    expect(whyNotInvited({ ...OPEN, coming: [{ typeId: 'other', date: '2026-12-04' }] })).toBeNull();
  });

  it.each(NOT_INVITED)('%s', (code) => {
    expect(whyNotInvited({ ...OPEN, ...BROKEN[code] })).toBe(code);
    // The first one that stands in the way is said.
    const rest = NOT_INVITED.slice(NOT_INVITED.indexOf(code));
    const all: WantedFacts = Object.assign({ ...OPEN }, ...rest.toReversed().map((each) => BROKEN[each]));
    expect(whyNotInvited(all)).toBe(code);
  });

  it('names the first visit that counts', () => {
    const coming = [
      { typeId: 'follow', date: '2026-12-09' },
      { typeId: 'skin', date: '2026-12-01' },
      { typeId: 'follow', date: '2026-12-04' },
    ];
    const of = (comingTypeIds: string[] | null, more: Partial<WantedFacts> = {}) =>
      visitInstead({ ...OPEN, coming, comingTypeIds, ...more });
    expect(of(['follow'])).toEqual(coming[2]);
    expect(of(null)).toEqual(coming[1]);
    expect(of(['x'])).toBeNull();
    // A visit that gets another time does not stand in its own way, nor do others where several may be booked.
    expect(of(null, { moves: true })).toBeNull();
    expect(of(null, { uses: 2 })).toBeNull();
  });
});

describe('where an invitation stands', () => {
  const SENT: InvitationFacts = { endedAs: null, isOver: false, events: ['planned'], message: 'sent' };
  const CASES: [(typeof INVITATION_STATES)[number], Partial<InvitationFacts>][] = [
    ['planned', { message: 'planned' }],
    ['sent', {}],
    ['delivered', { message: 'delivered' }],
    ['not-reached', { message: 'failed' }],
    ['opened', { events: ['planned', 'opened'] }],
    ['looked', { events: ['planned', 'opened', 'looked'], message: 'failed' }],
    ['booked', { events: ['planned', 'opened', 'booked'], endedAs: 'used', isOver: true }],
    ['later', { endedAs: 'later' }],
    ['declined', { endedAs: 'declined', isOver: true }],
    ['done-elsewhere', { endedAs: 'done-elsewhere' }],
    ['withdrawn', { endedAs: 'withdrawn', message: 'withdrawn' }],
    ['expired', { isOver: true, events: ['planned', 'opened'] }],
  ];
  it.each(CASES)('%s', (state, facts) => expect(invitationState({ ...SENT, ...facts })).toBe(state));
  it('has a case for each', () => expect(CASES.map(([state]) => state).sort()).toEqual([...INVITATION_STATES].sort()));
});

describe('a part of the day within the limits', () => {
  const LIMITS = { typeIds: [], siteIds: null, providerIds: null, hours: null, fromDate: null, untilDate: null };
  it('is all of that part where there are no hours, and what both have in common where there are', () => {
    expect(inPart(LIMITS, null)).toBe(LIMITS);
    expect(inPart(LIMITS, 'evening').hours).toEqual([
      { weekdays: [1, 2, 3, 4, 5, 6, 7], fromMinute: 1020, toMinute: 1440 },
    ]);
    const hours = [
      { weekdays: [1, 3], fromMinute: 480, toMinute: 780 },
      { weekdays: [2], fromMinute: 480, toMinute: 700 },
    ] as const;
    expect(inPart({ ...LIMITS, hours }, 'afternoon').hours).toEqual([
      { weekdays: [1, 3], fromMinute: 720, toMinute: 780 },
    ]);
  });
  it('leaves no minute of the day out, and none twice', () => {
    const parts = Object.values(DAY_PARTS);
    for (let minute = 0; minute < 1440; minute++)
      expect(parts.filter(({ fromMinute, toMinute }) => minute >= fromMinute && minute < toMinute)).toHaveLength(1);
  });
});
