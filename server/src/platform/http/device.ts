import { randomBytes } from 'node:crypto';
import type { Request, Response } from 'express';

export const DEVICE_COOKIE = 'zaguan_device';
const DEVICE_DAYS = 180;

/** What a device that was signed in from before brings along. It opens nothing: it only keeps strangers' tries apart. */
export function deviceToken(req: Request): string | null {
  const token: unknown = req.cookies?.[DEVICE_COOKIE];
  return typeof token === 'string' && /^[\w-]{43}$/.test(token) ? token : null;
}

/** Gives the device a token of its own (32 random bytes), if it has none. */
export function rememberDevice(res: Response, req: Request): string {
  const token = deviceToken(req) ?? randomBytes(32).toString('base64url');
  res.cookie(DEVICE_COOKIE, token, {
    httpOnly: true,
    sameSite: 'strict',
    secure: req.secure,
    maxAge: DEVICE_DAYS * 86_400_000,
    path: '/api/auth',
  });
  return token;
}
