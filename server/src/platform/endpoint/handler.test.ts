import { refusalsOf } from '@zaguan/contracts';
import { placeHold } from '@zaguan/contracts/booking';
import { daybookDay } from '@zaguan/contracts/daybook';
import { expect, it } from 'vitest';
import { handle } from './handler.ts';

it('lets a use case refuse only with what its contract lists (checked by the compiler)', () => {
  const listed = handle(placeHold, async (ctx) => ctx.fail('TimeTaken'));
  // @ts-expect-error: no hold is refused for a wrong status
  const unlisted = handle(placeHold, async (ctx) => ctx.fail('WrongStatus'));
  // @ts-expect-error: a day of the Daybook is never refused by its use case
  const none = handle(daybookDay, async (ctx) => ctx.fail('NotFound'));
  expect([listed, unlisted, none].map(({ endpoint }) => endpoint.name)).toEqual([
    'booking.placeHold',
    'booking.placeHold',
    'daybook.day',
  ]);
});

it('names every refusal that a caller may meet, by the stops of its call', () => {
  expect(refusalsOf(placeHold).slice(0, 1)).toEqual(['TooManyRequests']);
  expect(refusalsOf(daybookDay)).toEqual(['NotSignedIn', 'NotAllowed', 'InvalidInput', 'DatabaseAway', 'Unexpected']);
});
