import { listActs as listContract, undo } from '@zaguan/contracts/undo';
import { handle } from '../../platform/endpoint/handler.ts';
import { Failure } from '../../platform/endpoint/failure.ts';
import { listActs } from './listActs.ts';
import { claimInverse, type UndoCommands } from '../../platform/undo/undo.ts';

/** @param commands every command that may stand as an inverse, by name; the features register their own */
export function undoEndpoints(commands: UndoCommands) {
  return [
    handle(listContract, listActs),
    handle(undo, async (ctx, { id }) => {
      if (ctx.actor.kind !== 'staff') return ctx.fail('NotAllowed');
      const inverse = await claimInverse(ctx.em, ctx.actor.accountId, id, ctx.now);
      const command = inverse && commands[inverse.command];
      if (!inverse || !command) return ctx.fail('UndoGone');
      const needs = typeof command.needs === 'function' ? command.needs(inverse.input as never) : command.needs;
      if (ctx.scope(needs) === 'no') return ctx.fail('NotAllowed', { facts: { action: needs } });
      const result = await command.run(ctx, inverse.input as never);
      return result instanceof Failure ? result : {};
    }),
  ];
}
