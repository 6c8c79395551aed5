import { raw, type SqlEntityManager } from '@mikro-orm/postgresql';
import { type Message, MessageEntity } from '../../schema/index.ts';

export async function dropMessage(
  em: SqlEntityManager,
  id: string,
  code: Message['droppedCode'],
  now: Date,
): Promise<true> {
  await em.nativeUpdate(MessageEntity, { id }, { status: 'dropped', droppedCode: code, settledAt: now });
  return true;
}

/** Goes out later; the rule that holds it stays beside it. */
export async function holdMessage(
  em: SqlEntityManager,
  id: string,
  until: Date,
  code: Message['heldCode'],
): Promise<true> {
  await em.nativeUpdate(MessageEntity, { id }, { sendAt: until, nextAttemptAt: until, heldCode: code });
  return true;
}

/** @param of `lease` `null`: locked by this transaction, and never leased */
export async function settleLeased(
  em: SqlEntityManager,
  of: { id: string; lease: string | null },
  to: { status: 'sent' | 'failed' | 'planned'; reason: string | null; now: Date; nextAt: Date },
): Promise<void> {
  await em.nativeUpdate(
    MessageEntity,
    { id: of.id, status: 'planned', lease: of.lease },
    {
      status: to.status,
      failReason: to.reason,
      attempts: raw('attempts + 1'),
      nextAttemptAt: to.nextAt,
      lease: null,
      leaseUntil: null,
      settledAt: to.status === 'planned' ? null : to.now,
      ...(to.status === 'sent' && { sentAt: to.now }),
    },
  );
}
