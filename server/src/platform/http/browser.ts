import { createHash, randomBytes } from 'node:crypto';
import type { Request, Response } from 'express';

export const BROWSER_COOKIE = 'zaguan_browser';
const COOKIE_DAYS = 2;

/** SHA-256 of a token: tokens are never stored as they are. */
export function hashToken(token: string): Buffer {
  return createHash('sha256').update(token).digest();
}

/** The patient's browser as the hash of its cookie; a first visit gets a fresh random one (32 bytes). */
export function browserHash(req: Request, res: Response, secure: boolean): Buffer {
  const known: unknown = req.cookies?.[BROWSER_COOKIE];
  if (typeof known === 'string' && /^[\w-]{43}$/.test(known)) return hashToken(known);
  const token = randomBytes(32).toString('base64url');
  res.cookie(BROWSER_COOKIE, token, {
    httpOnly: true,
    sameSite: 'lax',
    secure,
    maxAge: COOKIE_DAYS * 86_400_000,
    path: '/api/public',
  });
  return hashToken(token);
}
