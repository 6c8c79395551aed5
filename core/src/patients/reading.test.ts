import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, dayNumber } from '../time/index.ts';
import { familyFirst, fullName, initialsOf, readBirthDate, readNamePart, readPhone, shortName } from './index.ts';

const TODAY = '2026-11-23';

describe('a date of birth in any sensible way of writing it', () => {
  it.each([
    ['1987-03-04', '1987-03-04'],
    ['19870304', '1987-03-04'],
    ['March 4, 1987', '1987-03-04'],
    ['4 March 1987', '1987-03-04'],
    ['4th of march 1987', '1987-03-04'],
    ['mar 4 1987', '1987-03-04'],
    ['3/4/1987', '1987-03-04'],
    ['03.04.1987', '1987-03-04'],
    ['03041987', '1987-03-04'],
    ['25/12/1987', '1987-12-25'],
    ['12/25/1987', '1987-12-25'],
    ['4 de marzo de 1987', '1987-03-04'],
    [' 2026-11-23 ', '2026-11-23'],
    ['25/12/45', '1945-12-25'],
    // Day first, for there is no other reading.
    ['19121987', '1987-12-19'],
    ['20101965', '1965-10-20'],
    ['1º de agosto de 1987', '1987-08-01'],
    ['1.º de agosto de 1987', '1987-08-01'],
    ["March 4 '87", '1987-03-04'],
    ['4 March ’87', '1987-03-04'],
    ['04MAR1987', '1987-03-04'],
    ['4 – 3 – 1987', '1987-04-03'],
    ['1987–03–04', '1987-03-04'],
    ['Wednesday, March 4, 1987', '1987-03-04'],
    ['miércoles 4 de marzo de 1987', '1987-03-04'],
  ])('%s', (text, date) => {
    expect(readBirthDate(text, 'month-first', TODAY)).toEqual({ ok: true, date });
  });

  it('follows the language where figures alone leave the order open', () => {
    expect(readBirthDate('3/4/1987', 'day-first', TODAY)).toEqual({ ok: true, date: '1987-04-03' });
  });

  it('asks, and does not guess, when two figures stand for the year', () => {
    expect(readBirthDate('7/8/12', 'month-first', TODAY)).toEqual({
      ok: false,
      problem: 'ambiguous',
      readings: ['1912-07-08', '1912-08-07', '2012-07-08', '2012-08-07'],
    });
    expect(readBirthDate('March 4, 27', 'month-first', TODAY)).toEqual({ ok: true, date: '1927-03-04' });
    expect(readBirthDate('March 4, 26', 'month-first', TODAY)).toMatchObject({
      problem: 'ambiguous',
      readings: ['1926-03-04', '2026-03-04'],
    });
  });

  it.each([
    ['', 'empty'],
    ['yesterday', 'not-a-date'],
    ['2/31/1987', 'no-such-day'],
    ['31 February 1987', 'no-such-day'],
    ['1987-13-01', 'no-such-day'],
    ['2026-11-24', 'in-future'],
    ['1901-11-22', 'too-long-ago'],
    ['1/2/3/4', 'not-a-date'],
    ['March 1987', 'not-a-date'],
    // Words of the language that the code is written in are no months.
    ['constructor 4 1987', 'not-a-date'],
    ['__proto__ 4 1987', 'not-a-date'],
    ['toString 4 1987', 'not-a-date'],
    ['19131987 4', 'not-a-date'],
    ['20131965', 'no-such-day'],
  ])('says what is wrong with “%s”', (text, problem) => {
    expect(readBirthDate(text, 'month-first', TODAY)).toMatchObject({ ok: false, problem });
  });

  it('takes 125 years to the day, and reads back every ISO date of a life', () => {
    expect(readBirthDate('1901-11-23', 'month-first', TODAY).ok).toBe(true);
    fc.assert(
      fc.property(fc.integer({ min: dayNumber('1901-11-23'), max: dayNumber(TODAY) }), (day) => {
        expect(readBirthDate(dateOfDay(day), 'day-first', TODAY)).toEqual({ ok: true, date: dateOfDay(day) });
      }),
    );
    expect(addDays(TODAY, 1)).toBe('2026-11-24');
  });
});

describe('a telephone number', () => {
  // ITU-T E.164; the North American plan through libphonenumber-js; 555-0100 to 555-0199 set aside for fiction.
  it.each([
    ['(312) 555-0142', '+13125550142'],
    ['312.555.0142', '+13125550142'],
    ['+1 312 555 0142', '+13125550142'],
    ['2125551234', '+12125551234'],
    ['+34 612 34 56 78', '+34612345678'],
  ])('%s', (text, e164) => {
    expect(readPhone(text)).toMatchObject({ ok: true, e164 });
  });
  it.each(['12345', '555-0142', '312 555 014', 'call me', '(000) 555-0142', '312-555-0142 ext 5'])(
    'refuses %s',
    (text) => {
      expect(readPhone(text)).toEqual({ ok: false, problem: 'not-a-phone' });
    },
  );
  it('tells an empty one from a wrong one', () => {
    expect(readPhone('  ')).toEqual({ ok: false, problem: 'empty' });
  });
});

describe('a part of a name', () => {
  it.each([
    ['  Ana   María ', 'Ana María'],
    ['Nguyễn', 'Nguyễn'],
    ['李小龍', '李小龍'],
    ["O'Brien-Smith", "O'Brien-Smith"],
    ['x', 'x'],
    // Unicode Cc: nobody can see them, and some end a line or a text.
    ['Ma\u0000r\u0007ta\u007f\u0085', 'Marta'],
    ['Ana\tMaría\n', 'Ana María'],
    ['a'.repeat(100), 'a'.repeat(100)],
  ])('%s', (text, name) => {
    expect(readNamePart(text)).toEqual({ ok: true, name });
  });
  it.each([
    ['', 'empty'],
    [' \t', 'empty'],
    ['12 34', 'no-letters'],
    ['😀', 'no-letters'],
    ['a'.repeat(101), 'too-long'],
  ])('refuses “%s”', (text, problem) => {
    expect(readNamePart(text)).toEqual({ ok: false, problem });
  });
  it('shows either part alone', () => {
    expect([
      fullName('Sukarno', ''),
      fullName(null, 'Xu'),
      initialsOf('amara', 'abara'),
      initialsOf('李', null),
    ]).toEqual(['Sukarno', 'Xu', 'AA', '李']);
    expect([
      familyFirst('Sukarno', ''),
      familyFirst(null, 'Xu'),
      shortName('Sukarno', ''),
      shortName(null, 'Xu'),
    ]).toEqual(['Sukarno', 'Xu', 'Sukarno', 'Xu']);
  });
  it('puts the family name first, with the first letter of the given one or all of it', () => {
    expect([familyFirst('Wren', 'Yamamoto'), shortName('Wren', 'Yamamoto')]).toEqual(['Yamamoto, Wren', 'Yamamoto W.']);
    // A letter may be more than one code unit.
    expect(shortName('élodie', 'de la Cruz')).toBe('de la Cruz É.');
    expect(shortName('𝒜da', 'Ngata')).toBe('Ngata 𝒜.');
  });
});
