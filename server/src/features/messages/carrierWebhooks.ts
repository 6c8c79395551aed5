import { randomUUID } from 'node:crypto';
import { afterReceipt, type DeliveryState } from '@zaguan/core/messages';
import type { CarrierReceipt, CarrierWebhooks } from '../../carriers/carrier.ts';
import type { Ctx } from '../../platform/endpoint/context.ts';
import { type UnitDeps, unitOfWork } from '../../platform/uow/unitOfWork.ts';
import { clinicRow } from '../clinic/index.ts';
import { settleByReceipt } from './messages.repository.ts';
import { messageForUpdate } from './messages.sql.ts';
import { receiveAnswer } from './receive.ts';

const UNSENT = new Date(0);

/**
 * Notes how far a carrier got. A receipt may overtake our own note that the message was handed over (a crash in between):
 * then the carrier's word alone settles it.
 */
async function takeReceipt(ctx: Ctx, receipt: CarrierReceipt): Promise<object> {
  const message = await messageForUpdate(ctx.em, receipt.messageId);
  // A message of another installation, or one that was withdrawn before it was taken: nobody's work.
  if (!message || message.status === 'withdrawn' || message.status === 'dropped') return {};
  const known = {
    state: (message.status === 'planned' ? 'sent' : message.status) as DeliveryState,
    at: message.receiptAt ? new Date(message.receiptAt).getTime() : UNSENT.getTime(),
  };
  const heard = { state: receipt.state, at: receipt.at.getTime() };
  const next = afterReceipt(known, heard);
  if (next !== heard && message.status !== 'planned') return {};
  await settleByReceipt(ctx.em, message.id, {
    status: next.state,
    reason: next.state === 'failed' ? (receipt.reason ?? 'bounced') : null,
    receiptAt: receipt.at,
    now: ctx.now,
  });
  // A number or address that does not take messages is work for the desk.
  if (next.state === 'failed' || known.state === 'failed') ctx.emit({ type: 'work-changed' });
  return {};
}

/** What to do with what comes back from the carriers, each in a transaction of its own. */
export function carrierWebhooks(deps: UnitDeps): CarrierWebhooks {
  const unit = (command: string) => ({ command, actor: { kind: 'system' } as const, requestId: randomUUID() });
  return {
    receipt: async (receipt) => {
      await unitOfWork(deps, unit('messages.receipt'), (ctx) => takeReceipt(ctx, receipt));
    },
    answer: async ({ from, body }) => {
      await unitOfWork(deps, unit('messages.mailAnswer'), async (ctx) => ({
        meaning: await receiveAnswer(ctx, from, body.slice(0, 2000), await clinicRow(ctx.em)),
      }));
    },
  };
}
