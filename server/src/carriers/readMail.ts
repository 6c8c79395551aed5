import type { CarrierReceipt, MailAnswer } from './carrier.ts';
import { MESSAGE_DOMAIN } from './smtpMail.ts';

/** `null`: nothing that concerns us, such as an automatic answer. */
export type ReadMail =
  | { readonly kind: 'bounce'; readonly receipt: CarrierReceipt }
  | { readonly kind: 'answer'; readonly answer: MailAnswer }
  | null;

const OUR_ID = new RegExp(`<([0-9a-f-]{36})@${MESSAGE_DOMAIN.replace('.', '\\.')}>`, 'i');

/** What the patient wrote, without what they quote. */
function withoutQuote(text: string): string {
  const lines = text.split(/\r?\n/);
  const quote = lines.findIndex((line) => /^(>|On .+ wrote:$|El .+ escribió:$|-{2,} ?Original)/.test(line.trim()));
  return (quote < 0 ? lines : lines.slice(0, quote)).join('\n').trim();
}

/**
 * Reads a mail that came back: a delivery report (RFC 3464: `Action: failed` with a permanent status of class 5), or an
 * answer. Reports of delays, and automatic answers (RFC 3834), are nobody's work.
 */
export async function readMail(raw: Buffer, receivedAt: Date): Promise<ReadMail> {
  // Read in when the first mail comes: a third of a second that no start should wait for.
  const { simpleParser } = await import('mailparser');
  const mail = await simpleParser(raw, { skipImageLinks: true, skipTextLinks: true, keepDeliveryStatus: true });
  const report = mail.attachments.find(({ contentType }) => contentType === 'message/delivery-status');
  if (report) {
    const status = report.content.toString('utf8');
    const id = OUR_ID.exec(raw.toString('latin1'))?.[1];
    const failed = /^Action:\s*failed/im.test(status) && /^Status:\s*5\./im.test(status);
    return id && failed
      ? {
          kind: 'bounce',
          receipt: { messageId: id, state: 'failed', reason: 'bounced', at: mail.date ?? receivedAt },
        }
      : null;
  }
  const automatic = mail.headers.get('auto-submitted');
  if (typeof automatic === 'string' && automatic !== 'no') return null;
  const from = mail.from?.value[0]?.address?.toLowerCase();
  const body = withoutQuote(mail.text ?? '');
  return from && body ? { kind: 'answer', answer: { from, body } } : null;
}
