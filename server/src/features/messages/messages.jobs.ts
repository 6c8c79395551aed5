import type { HandedOver, MailCarrier, MailMessage, SmsCarrier, TextMessage } from '../../carriers/carrier.ts';
import { isDatabaseAway } from '../../platform/db/failures.ts';
import type { Orm } from '../../platform/db/orm.ts';
import { failpoint } from '../../platform/failpoint.ts';
import { Poller } from '../../platform/jobs/poller.ts';
import { describeError, type Logger } from '../../platform/log/log.ts';
import { type ClaimOptions, claimNext, type Claimed, renewLease, settle } from './handOver.ts';

const POLL_MS = 300;
/** So many of each channel are handed over at once: one slow answer of a carrier must not hold up everyone. */
const HANDS = 4;
/** A lease is renewed while the carrier is being spoken to; it lapses when the process dies. */
const RENEW_MS = 2_500;
/** So long a stopping process waits for carriers that are being spoken to. */
const STOP_MS = 5_000;

type Channel = 'sms' | 'email';

export interface Carriers {
  readonly sms: SmsCarrier;
  readonly email: MailCarrier;
}

/**
 * Hands due messages to the carriers, several at once, but one after the other for each number or address. A message is
 * claimed with a lease and committed, handed over without any lock or transaction, and settled: nobody ever waits for a
 * slow carrier. A process that dies leaves a lease that lapses; the next one hands the message over again under the same
 * id, and the carrier discards the repetition. So none is lost, and none is shown twice.
 */
export class Dispatcher {
  private readonly poller = new Poller(POLL_MS, () => this.drain());

  constructor(
    private readonly orm: Orm,
    private readonly carriers: Carriers,
    private readonly options: ClaimOptions,
    private readonly log: Logger,
  ) {}

  start(): void {
    this.poller.start();
  }

  async stop(): Promise<void> {
    // A slow carrier is not waited for: the lease lapses, and the next process hands the message over again.
    await Promise.race([this.poller.stop(), new Promise((resolve) => setTimeout(resolve, STOP_MS).unref())]);
  }

  /** A queue with nothing due is looked at once; whoever finds a message calls another hand before handing it over. */
  private async drain(): Promise<void> {
    const hands: Promise<void>[] = [];
    const call = (channel: Channel, left: number) => {
      hands.push(
        this.hand(channel, () => {
          if (left > 1) call(channel, left - 1);
        }).catch((error: unknown) => this.note(error)),
      );
    };
    for (const channel of ['sms', 'email'] as const) call(channel, HANDS);
    // More come in while one waits for those that are there.
    for (const hand of hands) await hand;
  }

  private note(error: unknown): void {
    if (isDatabaseAway(error)) return;
    this.log.error({ error: describeError(error) }, 'a message could not be handed over; it stays planned');
  }

  /** Hands one message after the other over, until there is none. */
  private async hand(channel: Channel, onFirst: () => void): Promise<void> {
    for (let isFirst = true; !this.poller.isStopped; isFirst = false) {
      const claimed = await claimNext(this.orm, channel, this.options);
      if (claimed === 'none') return;
      if (isFirst) onFirst();
      if (claimed === 'settled') continue;
      failpoint('before-hand-over');
      const result = await this.handOver(claimed);
      failpoint('after-hand-over');
      await settle(this.orm, claimed, result);
      failpoint('before-recording');
    }
  }

  private async handOver(claimed: Claimed): Promise<HandedOver> {
    const renewing = setInterval(() => void renewLease(this.orm, claimed).catch(() => undefined), RENEW_MS);
    try {
      return await (claimed.channel === 'sms'
        ? this.carriers.sms.send(claimed.message as TextMessage)
        : this.carriers.email.send(claimed.message as MailMessage));
    } finally {
      clearInterval(renewing);
    }
  }
}
