import { createHash, createHmac, timingSafeEqual } from 'node:crypto';

/** 96 bits: short enough for a text message, and behind a date of birth that locks after a few tries. */
const LINK_TOKEN_LENGTH = 16;

/** The token of a link, made again from its id whenever a message needs it: it is stored nowhere. */
export function tokenOf(linkId: string, secret: string): string {
  const seal = createHmac('sha256', secret).update(`visit-link:${linkId}`).digest('base64url');
  return seal.slice(0, LINK_TOKEN_LENGTH);
}

/** The address of a visit as it stands in messages, as short as it can be; it leads on to the pages for patients. */
export function linkAddress(publicUrl: string, token: string): string {
  return `${publicUrl}/v/${token}`;
}

/** The same of an invitation. */
export function invitationAddress(publicUrl: string, token: string): string {
  return `${publicUrl}/i/${token}`;
}

/** How many letters such an address has. */
export const linkLength = (publicUrl: string): number => linkAddress(publicUrl, '').length + LINK_TOKEN_LENGTH;

/** The n-th six-figure code of a verification, made again from its id like a link's token: it is stored nowhere. */
export function codeOf(verificationId: string, n: number, secret: string): string {
  const digest = createHmac('sha256', secret).update(`code:${verificationId}:${n}`).digest();
  return String(digest.readUInt32BE(0) % 1_000_000).padStart(6, '0');
}

/** What a number or address may have enough of: all automated messages, or invitations to come back alone. */
const PURPOSES = ['visit-messages', 'recalls'] as const;
export type Purpose = (typeof PURPOSES)[number];

const SEALED_AS: Record<Purpose, string> = { 'visit-messages': 'stop', recalls: 'stop-recalls' };
const sealOf = (contactPointId: string, secret: string, purpose: Purpose) =>
  createHmac('sha256', secret).update(`${SEALED_AS[purpose]}:${contactPointId}`).digest();

/** Ends automated messages of a purpose to one number or address; says nothing about whose it is. Never runs out. */
export function stopTokenOf(contactPointId: string, secret: string, purpose: Purpose = 'visit-messages'): string {
  return Buffer.concat([
    Buffer.from(contactPointId.replaceAll('-', ''), 'hex'),
    sealOf(contactPointId, secret, purpose),
  ]).toString('base64url');
}

/** The number's or address's id out of such a token, and what it has enough of; `null` if it was altered. */
export function contactOfStopToken(
  token: string,
  secret: string,
): { readonly contactPointId: string; readonly purpose: Purpose } | null {
  const bytes = Buffer.from(token, 'base64url');
  if (bytes.length !== 48) return null;
  const hex = bytes.subarray(0, 16).toString('hex');
  const id = hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');
  const purpose = PURPOSES.find((each) => timingSafeEqual(bytes.subarray(16), sealOf(id, secret, each)));
  return purpose ? { contactPointId: id, purpose } : null;
}

export function hashOfToken(token: string): Buffer {
  return createHash('sha256').update(token).digest();
}
