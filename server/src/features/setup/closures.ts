import type { InputOf, OutputOf } from '@zaguan/contracts';
import type { readClosures as contract } from '@zaguan/contracts/setup';
import { epochToWall, isZone } from '@zaguan/core/time';
import { closuresFromCalendar } from '../../exchange/closuresFromCalendar.ts';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';

/** What a calendar file holds, for the person to look at before anything is saved. */
export async function readClosures(
  ctx: Ctx,
  { timeZone, calendar }: InputOf<typeof contract>,
): Promise<OutputOf<typeof contract> | Failure> {
  if (!isZone(timeZone)) return ctx.fail('SetupRefused', { issues: [{ path: 'timeZone', code: 'no-such-zone' }] });
  const read = closuresFromCalendar(calendar, timeZone, epochToWall(timeZone, nowMinute(ctx)).date);
  if (!read) return ctx.fail('SetupRefused', { issues: [{ path: 'calendar', code: 'not-a-calendar' }] });
  return { closures: [...read.closures], refused: [...read.refused] };
}
