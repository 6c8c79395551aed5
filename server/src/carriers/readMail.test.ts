import { describe, expect, it } from 'vitest';
import { readMail } from './readMail.ts';
import { composeAnswer } from './simulatedMail.ts';

const AT = new Date('2026-12-01T16:20:00Z');
const ID = '0b7a3c52-6a1e-4a39-9c5e-0d8f2f9a1b11';

/** A delivery report in the form of RFC 3464, appendix E.1 (laid out from memory), with the fields that decide. */
function report(fields: string[], messageId = `<${ID}@zaguan.invalid>`): Buffer {
  return Buffer.from(
    [
      'From: Mail Delivery Subsystem <MAILER-DAEMON@mail.example.net>',
      'To: bounces@example.com',
      'Subject: Returned mail',
      'Date: Tue, 01 Dec 2026 16:25:00 +0000',
      'MIME-Version: 1.0',
      'Content-Type: multipart/report; report-type=delivery-status; boundary="B"',
      '',
      '--B',
      '',
      'The original message was received, and could not be delivered.',
      '--B',
      'Content-Type: message/delivery-status',
      '',
      'Reporting-MTA: dns; mail.example.net',
      '',
      ...fields,
      '--B',
      'Content-Type: text/rfc822-headers',
      '',
      `Message-ID: ${messageId}`,
      'Subject: Your appointment',
      '--B--',
      '',
    ].join('\r\n'),
  );
}

describe('a mail that comes back', () => {
  it('that says it could not be delivered is a bounce of ours, at the time it bears', async () => {
    const read = await readMail(
      report(['Final-Recipient: rfc822; a@example.org', 'Action: failed', 'Status: 5.1.1']),
      AT,
    );
    expect(read).toEqual({
      kind: 'bounce',
      receipt: { messageId: ID, state: 'failed', reason: 'bounced', at: new Date('2026-12-01T16:25:00Z') },
    });
  });

  it.each([
    ['a delay (it is still being tried)', ['Action: delayed', 'Status: 4.4.1']],
    ['a failure that may pass', ['Action: failed', 'Status: 4.2.2']],
    ['a success', ['Action: delivered', 'Status: 2.0.0']],
  ])('that reports %s is nobody’s work', async (_, fields) => {
    expect(await readMail(report(fields), AT)).toBeNull();
  });

  it('about a message that is not ours is nobody’s work', async () => {
    expect(await readMail(report(['Action: failed', 'Status: 5.1.1'], '<other@example.net>'), AT)).toBeNull();
  });

  it.each([
    ['Y', 'Y'],
    ['Y\n\nOn Tue, Dec 1, 2026 the clinic wrote:\n> STOP to end', 'Y'],
    ['Sí\n\nEl mar, 1 dic 2026 la clínica escribió:\n> ALTO', 'Sí'],
    ['> quoted only', ''],
    ['Two lines\nof words', 'Two lines\nof words'],
  ])('from a patient is read without what it quotes: %j', async (body, wanted) => {
    const read = await readMail(await composeAnswer('Ana.Ruiz@example.com', body, AT), AT);
    expect(read).toEqual(wanted ? { kind: 'answer', answer: { from: 'ana.ruiz@example.com', body: wanted } } : null);
  });

  it('from a machine is nobody’s work (RFC 3834)', async () => {
    const raw = await composeAnswer('ana@example.com', 'I am away until Monday.', AT);
    const automatic = Buffer.from(`Auto-Submitted: auto-replied\r\n${raw.toString()}`);
    expect(await readMail(automatic, AT)).toBeNull();
  });
});
