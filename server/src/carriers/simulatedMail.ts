import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import nodemailer from 'nodemailer';
import type pg from 'pg';
import { SMTPServer } from 'smtp-server';

/**
 * An SMTP server that ships: every simulated mailbox in one. It keeps its own store, discards a repeated Message-ID, and
 * can be told to be down (421), to refuse addresses (550), or to bounce what it has taken (RFC 3464).
 */
export class SimulatedMail {
  private readonly server: SMTPServer;

  constructor(
    private readonly pool: pg.Pool,
    private readonly now: () => Promise<Date>,
  ) {
    this.server = new SMTPServer({
      authOptional: true,
      // Nobody's name is looked up: this server talks to this machine only.
      disableReverseLookup: true,
      disabledCommands: ['AUTH', 'STARTTLS'],
      logger: false,
      onRcptTo: (_address, _session, done) => {
        void this.mode().then((mode) => {
          if (mode === 'down') done(refusal(421, 'Not now.'));
          else if (mode === 'refuses') done(refusal(550, 'No such mailbox.'));
          else done();
        }, done);
      },
      onData: (stream, session, done) => {
        const chunks: Buffer[] = [];
        stream.on('data', (chunk: Buffer) => chunks.push(chunk));
        stream.on('end', () => {
          const to = session.envelope.rcptTo[0]?.address.toLowerCase() ?? '';
          void this.keep(Buffer.concat(chunks), to).then(() => done(), done);
        });
      },
    });
    // A client that hangs up is none of our concern.
    this.server.on('error', () => undefined);
  }

  /** Listens on loopback, on a free port; gives the address to send to. */
  async start(): Promise<string> {
    await new Promise<void>((resolve) => this.server.listen(0, '127.0.0.1', () => resolve()));
    const { port } = this.server.server.address() as AddressInfo;
    return `smtp://127.0.0.1:${port}`;
  }

  stop(): Promise<void> {
    return new Promise((resolve) => this.server.close(() => resolve()));
  }

  private async mode(): Promise<string> {
    const { rows } = await this.pool.query<{ mode: string }>(
      "select mode from simulated.carrier where channel = 'email'",
    );
    return rows[0]?.mode ?? 'works';
  }

  private async keep(raw: Buffer, to: string): Promise<void> {
    const { simpleParser } = await import('mailparser');
    const mail = await simpleParser(raw);
    const calendar = mail.attachments.find(({ contentType }) => contentType === 'text/calendar');
    const now = await this.now();
    const { rowCount } = await this.pool.query(
      `insert into simulated.mail (id, address, subject, body, calendar, raw, at) values ($1, $2, $3, $4, $5, $6, $7) on conflict (id) do nothing`,
      [
        mail.messageId ?? randomUUID(),
        to,
        mail.subject ?? '',
        mail.text ?? '',
        calendar?.content.toString('utf8') ?? null,
        raw,
        now,
      ],
    );
    if (rowCount && (await this.mode()) === 'bounces') await this.bounce(mail.messageId ?? '', to, now);
  }

  /** A delivery report in three parts: for people, for programs, and the headers of what came back (RFC 3464). */
  private async bounce(messageId: string, to: string, now: Date): Promise<void> {
    const boundary = `report-${randomUUID()}`;
    const raw = [
      'From: Mail Delivery <mailer-daemon@example.net>',
      'To: bounces@example.com',
      'Subject: Undelivered mail',
      `Date: ${now.toUTCString()}`,
      `Message-ID: <${randomUUID()}@example.net>`,
      'Auto-Submitted: auto-replied',
      'MIME-Version: 1.0',
      `Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
      '',
      `--${boundary}`,
      'Content-Type: text/plain; charset=utf-8',
      '',
      'This mailbox does not take mail any more.',
      `--${boundary}`,
      'Content-Type: message/delivery-status',
      '',
      'Reporting-MTA: dns; mail.example.net',
      '',
      `Final-Recipient: rfc822; ${to}`,
      'Action: failed',
      'Status: 5.1.1',
      `--${boundary}`,
      'Content-Type: text/rfc822-headers',
      '',
      `Message-ID: ${messageId}`,
      `--${boundary}--`,
      '',
    ].join('\r\n');
    await comeBack(this.pool, { raw: Buffer.from(raw), address: to, body: '', at: now });
  }
}

function refusal(code: number, text: string): Error {
  return Object.assign(new Error(text), { responseCode: code });
}

async function comeBack(
  pool: Pick<pg.Pool, 'query'>,
  mail: { raw: Buffer; address: string; body: string; at: Date },
): Promise<void> {
  await pool.query('insert into simulated.mail_back (raw, address, body, at) values ($1, $2, $3, $4)', [
    mail.raw,
    mail.address,
    mail.body,
    mail.at,
  ]);
}

/** A patient's answer from a simulated mailbox, as a whole mail. */
export async function composeAnswer(from: string, body: string, at: Date): Promise<Buffer> {
  const composer = nodemailer.createTransport({ streamTransport: true, buffer: true });
  const { message } = await composer.sendMail({ from, to: 'clinic@example.com', subject: 'Re:', text: body, date: at });
  return message as Buffer;
}
