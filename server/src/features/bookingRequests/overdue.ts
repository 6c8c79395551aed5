import { epochToWall } from '@zaguan/core/time';
import { type Ctx, nowMinute } from '../../platform/endpoint/context.ts';
import { siteRows } from '../clinic/index.ts';
import { countOpenBefore } from './requests.repository.ts';

/** How many requests to book are open past their last date; none for who may not ask either. */
export async function overdueRequests(ctx: Ctx): Promise<number> {
  if (ctx.scope('bookingRequest.ask') === 'no') return 0;
  const [main] = await siteRows(ctx.em);
  const today = epochToWall(main?.timeZone ?? 'UTC', nowMinute(ctx)).date;
  return countOpenBefore(ctx.em, today);
}
