import type { OutputOf } from '@zaguan/contracts';
import * as contract from '@zaguan/contracts/messages';
import { smsLength } from '@zaguan/core/messages';
import { composeAnswer } from '../../carriers/simulatedMail.ts';
import { moveClock } from '../../platform/clock/clock.ts';
import { coversSite } from '../../platform/endpoint/context.ts';
import { handle } from '../../platform/endpoint/handler.ts';
import { clinicRow } from '../clinic/index.ts';
import { contactOfStopToken } from '../linkTokens/index.ts';
import { isHidden } from '../restricted/index.ts';
import { messagesOf, waitingCount } from './messages.repository.ts';
import { isOptedOut, messagedVisit } from './messages.sql.ts';
import {
  carrierModes,
  recordFromMailbox,
  recordFromPhone,
  setCarrierMode,
  simulatedMails,
  simulatedTexts,
} from './simulatedCarriers.sql.ts';
import { endMessages, receiveAnswer } from './receive.ts';

const wire = (text: string) => new Date(text).toISOString();

const ofVisit = handle(contract.visitMessages, async (ctx, { id }) => {
  const visit = await messagedVisit(ctx.em, id);
  if (!visit) return ctx.fail('NotFound');
  if (!coversSite(ctx, 'messages.view', visit.siteId) || (await isHidden(ctx, id))) return ctx.fail('NotAllowed');
  const rows = await messagesOf(ctx.em, id);
  return {
    messages: rows.map((row) => ({
      id: row.id,
      kind: row.kind,
      channel: row.channel,
      step: row.step,
      body: row.body,
      sendAt: row.sendAt.toISOString(),
      status: row.status,
      droppedCode: row.droppedCode,
      heldCode: row.heldCode,
      failReason: row.failReason,
      settledAt: row.settledAt?.toISOString() ?? null,
    })),
  };
});

/** Rows by their key, in the order in which each key first comes; oldest first within. */
function grouped<T>(newestFirst: readonly T[], keyOf: (row: T) => string): [string, T[]][] {
  const groups = new Map<string, T[]>();
  for (const row of newestFirst) groups.set(keyOf(row), [row, ...(groups.get(keyOf(row)) ?? [])]);
  return [...groups];
}

/** Ends automated messages to who holds the link; says nothing about whose it is, and doing it twice is no fault. */
const stop = handle(contract.stopMessages, async (ctx, { token }) => {
  const stopped = contactOfStopToken(token, ctx.linkSecret);
  if (!stopped) return ctx.fail('LinkGone');
  const { contactPointId, purpose } = stopped;
  if (!(await isOptedOut(ctx.em, contactPointId, { forRecalls: purpose === 'recalls' })))
    await endMessages(ctx, contactPointId, { purpose, wording: 'The link in a message.', how: 'one-click' });
  return { purpose };
});

/** The Postroom belongs to the simulated carriers; where real ones are used there is none. */
function simulatedCarriersEndpoints(demo: boolean) {
  return [
    handle(contract.simulatedCarriers, async (ctx) => {
      if (!demo) return ctx.fail('NotFound');
      const modes = Object.fromEntries((await carrierModes(ctx.em)).map(({ channel, mode }) => [channel, mode]));
      return {
        now: ctx.now.toISOString(),
        modes: modes as OutputOf<typeof contract.simulatedCarriers>['modes'],
        waiting: await waitingCount(ctx.em, ctx.now),
        phones: grouped(await simulatedTexts(ctx.em), ({ number }) => number).map(([number, texts]) => ({
          number,
          messages: texts.map(({ id, direction, body, at }) => ({
            id,
            direction,
            body,
            at: wire(at),
            parts: smsLength(body).parts,
          })),
        })),
        mailboxes: grouped(await simulatedMails(ctx.em), ({ address }) => address).map(([address, mails]) => ({
          address,
          messages: mails.map(({ address: _, at, ...mail }) => ({ ...mail, at: wire(at) })),
        })),
      };
    }),
    handle(contract.simulatedReply, async (ctx, { number, body }) => {
      if (!demo) return ctx.fail('NotFound');
      await recordFromPhone(ctx.em, { id: ctx.newId(), number, body, at: ctx.now });
      return { meaning: await receiveAnswer(ctx, number, body, await clinicRow(ctx.em)) };
    }),
    handle(contract.simulatedMail, async (ctx, { address, body }) => {
      if (!demo) return ctx.fail('NotFound');
      const raw = await composeAnswer(address, body, ctx.now);
      await recordFromMailbox(ctx.em, { address, body, raw, at: ctx.now });
      return {};
    }),
    handle(contract.simulatedClock, async (ctx, { minutes }) => {
      if (!demo) return ctx.fail('NotFound');
      await moveClock(ctx.em, minutes);
      return { now: new Date(ctx.now.getTime() + minutes * 60_000).toISOString() };
    }),
    handle(contract.simulatedCarrier, async (ctx, { channel, mode }) => {
      if (!demo) return ctx.fail('NotFound');
      await setCarrierMode(ctx.em, channel, mode);
      return {};
    }),
  ];
}

/** @param demo whether the simulated carriers may be looked into */
export function messagesEndpoints(demo: boolean) {
  return [ofVisit, stop, ...simulatedCarriersEndpoints(demo)];
}
