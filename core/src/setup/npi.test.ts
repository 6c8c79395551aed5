import { expect, it } from 'vitest';
import { isNpi, npiCheckDigit } from './npi.ts';

// Worked example of CMS's check digit document: 123456789 has the check digit 3.
it('reckons the check digit of the worked example', () => {
  expect(npiCheckDigit('123456789')).toBe('3');
  expect(isNpi('1234567893')).toBe(true);
});

it('refuses each change of a single digit', () => {
  const good = '1234567893';
  for (let at = 0; at < good.length; at++)
    for (let digit = 0; digit <= 9; digit++)
      if (good[at] !== String(digit)) expect(isNpi(good.slice(0, at) + digit + good.slice(at + 1))).toBe(false);
});

it('refuses neighbors exchanged, unless Luhn can’t tell (09 and 90)', () => {
  const good = '1234567893';
  for (let at = 0; at + 1 < good.length; at++)
    expect(isNpi(good.slice(0, at) + good[at + 1] + good[at] + good.slice(at + 2))).toBe(false);
});

it.each(['', '123456789', '12345678930', '1234 567893', '3234567891', 'abcdefghij'])('refuses “%s”', (text) => {
  expect(isNpi(text)).toBe(false);
});

it('needs nine digits', () => {
  expect(() => npiCheckDigit('12345678')).toThrow(RangeError);
});
