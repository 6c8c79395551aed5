import type { InputOf } from '@zaguan/contracts';
import { readClosures as contract } from '@zaguan/contracts/setup';
import { epochToWall, isZone } from '@zaguan/core/time';
import { readCalendar } from '../../exchange/readCalendarTask.ts';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { type AnswerOf, handleHeavy } from '../../platform/endpoint/handler.ts';

/** What a calendar file holds, for the person to look at before anything is saved. */
export const readClosures = handleHeavy(
  contract,
  async (ctx: Ctx, { timeZone, calendar }: InputOf<typeof contract>) =>
    isZone(timeZone)
      ? { text: calendar, zones: [timeZone], today: epochToWall(timeZone, nowMinute(ctx)).date, busyOnly: false }
      : ctx.fail('SetupRefused', { issues: [{ path: 'timeZone', code: 'no-such-zone' }] }),
  async (question, { heavy, signal }): Promise<AnswerOf<typeof contract>> => {
    const read = await readCalendar(heavy, question, signal);
    if ('zones' in read) {
      const [{ closures, refused }] = read.zones;
      return { closures: [...closures], refused: [...refused] };
    }
    const code = read.refused === 'too-heavy' ? 'calendar-too-heavy' : read.refused;
    return new Failure('SetupRefused', {
      issues: [{ path: 'calendar', code }],
      facts: 'at' in read ? { at: read.at } : {},
    });
  },
);
