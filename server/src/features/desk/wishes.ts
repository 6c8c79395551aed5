import type { InputOf } from '@zaguan/contracts';
import type { endWish as contract } from '@zaguan/contracts/desk';
import type { Ctx } from '../../platform/endpoint/context.ts';
import type { AnswerOf } from '../../platform/endpoint/handler.ts';
import type { UndoAnswer } from '../../platform/undo/undo.ts';
import { setWishEnded } from './desk.repository.ts';

/** Somebody no longer wants to come sooner. */
export async function endWish(ctx: Ctx, { id }: InputOf<typeof contract>): Promise<AnswerOf<typeof contract>> {
  if (!(await setWishEnded(ctx.em, id, ctx.now))) return ctx.fail('NotFound');
  ctx.wrote({ subjects: [{ kind: 'waitlist-wish', id }], before: { open: true }, after: { open: false } });
  return { undo: await ctx.undoable({ command: 'desk.openWish', input: { id }, label: { what: 'wish' } }) };
}

/** Its inverse. */
export async function openWish(ctx: Ctx, { id }: { id: string }): Promise<UndoAnswer> {
  if (!(await setWishEnded(ctx.em, id, null))) return ctx.fail('NotFound');
  ctx.wrote({ subjects: [{ kind: 'waitlist-wish', id }], before: { open: false }, after: { open: true } });
  return {};
}
