import * as contract from '@zaguan/contracts/messages';
import { smsLength } from '@zaguan/core/messages';
import { coversSite } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { clinicRow } from '../clinic/index.ts';
import { messagedVisit, messagesOf } from './messages.repository.ts';
import {
  carrierMode,
  moveClock,
  recordFromPatient,
  setCarrierMode,
  standInMessages,
  waitingCount,
} from './postroom.repository.ts';
import { receiveText } from './receive.ts';

const wire = (text: string) => new Date(text).toISOString();

const ofVisit = handle(contract.visitMessages, async (ctx, { id }) => {
  const visit = await messagedVisit(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'messages.view', visit.siteId)) return ctx.fail('NotAllowed');
  const rows = await messagesOf(ctx.em, id);
  return {
    messages: rows.map((row) => ({
      id: row.id,
      kind: row.kind,
      step: row.step,
      body: row.body,
      sendAt: wire(row.send_at),
      status: row.status,
      droppedCode: row.dropped_code as (typeof contract.DROP_CODES)[number] | null,
      failReason: row.fail_reason,
      settledAt: row.settled_at && wire(row.settled_at),
    })),
  };
});

/** The Postroom belongs to the simulated carriers; where real ones are used there is none. */
function postroomEndpoints(demo: boolean) {
  return [
    handle(contract.postroom, async (ctx) => {
      if (!demo) return ctx.fail('NotFound');
      const rows = await standInMessages(ctx.em);
      const numbers = [...new Set(rows.map((row) => row.number))];
      return {
        now: ctx.now.toISOString(),
        mode: await carrierMode(ctx.em),
        waiting: await waitingCount(ctx.em, ctx.now),
        phones: numbers.map((number) => ({
          number,
          messages: rows
            .filter((row) => row.number === number)
            .reverse()
            .map((row) => ({
              id: row.id,
              direction: row.direction,
              body: row.body,
              at: wire(row.at),
              parts: smsLength(row.body).parts,
            })),
        })),
      };
    }),
    handle(contract.postroomReply, async (ctx, { number, body }) => {
      if (!demo) return ctx.fail('NotFound');
      await recordFromPatient(ctx.em, ctx.newId(), number, body, ctx.now);
      return { meaning: await receiveText(ctx, number, body, await clinicRow(ctx.em)) };
    }),
    handle(contract.postroomClock, async (ctx, { minutes }) => {
      if (!demo) return ctx.fail('NotFound');
      await moveClock(ctx.em, minutes);
      return { now: new Date(ctx.now.getTime() + minutes * 60_000).toISOString() };
    }),
    handle(contract.postroomCarrier, async (ctx, { mode }) => {
      if (!demo) return ctx.fail('NotFound');
      await setCarrierMode(ctx.em, mode);
      return {};
    }),
  ];
}

/** @param demo whether the simulated carriers may be looked into */
export function messagesEndpoints(demo: boolean) {
  return [ofVisit, ...postroomEndpoints(demo)];
}
