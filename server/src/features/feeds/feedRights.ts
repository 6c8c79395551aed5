import type { Ctx } from '../../platform/endpoint/context.ts';
import type { Failure } from '../../platform/endpoint/failure.ts';
import { mayEditHoursOf } from '../availability/index.ts';
import { resourceName } from './feeds.repository.ts';

/** Whoever may change somebody's hours may let a calendar program follow them. */
export async function ofOwnOrAny(ctx: Ctx, resourceId: string): Promise<string | Failure<'NotAllowed' | 'NotFound'>> {
  const name = await resourceName(ctx.em, resourceId);
  if (name === null) return ctx.fail('NotFound');
  return (await mayEditHoursOf(ctx, resourceId)) ? name : ctx.fail('NotAllowed');
}
