import nodemailer, { type Transporter } from 'nodemailer';
import type { HandedOver, MailCarrier, MailMessage } from './carrier.ts';

/** The part of a message id after the sign; the reserved name says that nobody is to write to it (RFC 2606). */
export const MESSAGE_DOMAIN = 'zaguan.invalid';
const TIMEOUT_MS = 10_000;

/**
 * Hands e-mail to an SMTP server (RFC 5321): the one that ships with the demo, or a real one. The Message-ID is made
 * from the stable id, so that a repetition can be known. A refusal with 5xx is final, with 4xx it is tried again.
 */
export class SmtpMail implements MailCarrier {
  private readonly transport: Transporter;

  constructor(
    url: string,
    /** Who it comes from, and where bounces go. */
    private readonly addresses: { readonly from: string; readonly bounces: string },
  ) {
    this.transport = nodemailer.createTransport({
      url,
      pool: true,
      maxConnections: 4,
      connectionTimeout: TIMEOUT_MS,
      socketTimeout: TIMEOUT_MS,
      tls: { rejectUnauthorized: !/127\.0\.0\.1|localhost/.test(url) },
    });
  }

  async send(message: MailMessage): Promise<HandedOver> {
    try {
      await this.transport.sendMail({
        messageId: `<${message.id}@${MESSAGE_DOMAIN}>`,
        from: { name: message.fromName, address: this.addresses.from },
        to: message.to,
        subject: message.subject,
        text: message.body,
        envelope: { from: this.addresses.bounces, to: message.to },
        headers: {
          // Keeps out-of-office answers from coming back (RFC 3834).
          'Auto-Submitted': 'auto-generated',
          ...(message.unsubscribeUrl && {
            'List-Unsubscribe': `<${message.unsubscribeUrl}>`,
            'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
          }),
        },
        ...(message.calendar && {
          icalEvent: { method: message.calendar.method, filename: 'visit.ics', content: message.calendar.content },
        }),
      });
      return { ok: true };
    } catch (error) {
      const code = error instanceof Error && 'responseCode' in error ? Number(error.responseCode) : 0;
      return code >= 500 && code < 600
        ? { ok: false, reason: 'address-refused', final: true }
        : { ok: false, reason: 'carrier-down', final: false };
    }
  }

  close(): void {
    this.transport.close();
  }
}
