import { expect, it } from 'vitest';
import { whyNoText } from './numbers.ts';

// Kinds of numbers by the metadata of Google's libphonenumber, as the package ships it.
it('writes to phones of the clinic’s countries, and to no number that is dear or that nobody carries', () => {
  for (const [number, why] of [
    ['+13125550142', null],
    ['+17205550101', null],
    ['+12025550123', null],
    ['+19005550123', 'phone-kind'],
    ['+18005550123', 'phone-kind'],
    ['+447400123456', 'phone-country'],
    ['+8821612345678', 'phone-country'],
    ['+16135550142', 'phone-country'],
    ['+17875550142', 'phone-country'],
  ] as const)
    expect([number, whyNoText(number, ['US'])]).toEqual([number, why]);
  expect(whyNoText('+447400123456', ['US', 'GB'])).toBeNull();
  // British premium rate and landline.
  expect(whyNoText('+449098790000', ['GB'])).toBe('phone-kind');
  expect(whyNoText('+442079460000', ['GB'])).toBe('phone-kind');
});
