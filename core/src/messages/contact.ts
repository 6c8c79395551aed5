import { readPhone } from '../patients/index.ts';

/** How a contact is reached: by text message or by e-mail. */
export type Channel = 'sms' | 'email';

export type ContactReading =
  | { readonly ok: true; readonly channel: Channel; readonly value: string }
  | { readonly ok: false; readonly problem: string };

/** One mailbox, common practice: something, an at sign, a name with a dot; no blanks. Longest by RFC 5321 (from memory). */
const MAILBOX = /^[^\s@<>(),;:"[\]\\]{1,64}@[^\s@.]+(\.[^\s@.]+)+$/;
const MAX_MAILBOX_LENGTH = 254;

/** The channel of a contact as it is kept. */
export function channelOf(contact: string): Channel {
  return contact.includes('@') ? 'email' : 'sms';
}

/** A telephone number or an e-mail address as typed: E.164, or the address in small letters. */
export function readContact(typed: string): ContactReading {
  const text = typed.trim();
  if (!text.includes('@')) {
    const phone = readPhone(text);
    return phone.ok
      ? { ok: true, channel: 'sms', value: phone.e164 }
      : { ok: false, problem: `phone-${phone.problem}` };
  }
  const value = text.toLowerCase();
  return value.length <= MAX_MAILBOX_LENGTH && MAILBOX.test(value)
    ? { ok: true, channel: 'email', value }
    : { ok: false, problem: 'email-not-an-address' };
}
