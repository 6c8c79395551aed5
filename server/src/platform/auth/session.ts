import { randomBytes, timingSafeEqual } from 'node:crypto';
import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler } from 'express';
import session, { type SessionData } from 'express-session';
import type pg from 'pg';
import type { Actor } from '../endpoint/context.ts';

declare module 'express-session' {
  interface SessionData {
    actor: Extract<Actor, { kind: 'staff' }>;
    csrfToken: string;
    signedInAt: number;
  }
}

/** A session ends after 30 minutes without a call and after 12 hours at the latest (NIST SP 800-63B-4, AAL2, from memory). */
const IDLE_MS = 30 * 60_000;
const MAX_SESSION_MS = 12 * 3_600_000;

export const SESSION_COOKIE = 'zaguan_session';

/** Says that a page asks by itself, at a desk where nobody has touched anything for a while. */
const UNATTENDED_HEADER = 'x-unattended';
/** The line that keeps pages up to date is opened again by itself too. */
const LIVE_LINE = '/api/events';

/**
 * Sessions in the database, so that any process can answer. What a page asks by itself is answered, but does not put off
 * the end of the session: a desk that was left signs out although its pages go on asking.
 */
export function sessions(pool: pg.Pool, secret: string, secure: boolean): RequestHandler {
  const Store = connectPgSimple(session);
  const common = {
    name: SESSION_COOKIE,
    secret,
    resave: false,
    saveUninitialized: false,
    cookie: { httpOnly: true, sameSite: 'lax', secure, maxAge: IDLE_MS },
  } as const;
  const table = { pool, tableName: 'web_session' };
  const used = session({ ...common, rolling: true, store: new Store({ ...table, pruneSessionInterval: 600 }) });
  const unattended = session({
    ...common,
    rolling: false,
    store: new Store({ ...table, pruneSessionInterval: false, disableTouch: true }),
  });
  return (req, res, next) => (req.get(UNATTENDED_HEADER) || req.path === LIVE_LINE ? unattended : used)(req, res, next);
}

/** The signed-in member of staff, or `null` (also when the session is too old). */
export function staffOf(req: Request): Extract<Actor, { kind: 'staff' }> | null {
  return isSignedIn(req.session) ? req.session.actor : null;
}

/** Whether a kept session still stands for somebody. */
export function isSignedIn<S extends Partial<SessionData>>(
  session: S | null | undefined,
): session is S & Pick<SessionData, 'actor'> {
  return Boolean(session?.actor && session.signedInAt && Date.now() - session.signedInAt < MAX_SESSION_MS);
}

/** Starts a fresh session for someone who has just signed in (a new id, against fixation). */
export function beginSession(req: Request, actor: Extract<Actor, { kind: 'staff' }>): Promise<string> {
  return new Promise((resolve, reject) => {
    req.session.regenerate((error) => {
      if (error) return reject(error);
      const csrfToken = randomBytes(32).toString('base64url');
      Object.assign(req.session, { actor, csrfToken, signedInAt: Date.now() });
      req.session.save((failed) => (failed ? reject(failed) : resolve(csrfToken)));
    });
  });
}

export function endSession(req: Request): Promise<void> {
  return new Promise((resolve, reject) => req.session.destroy((error) => (error ? reject(error) : resolve())));
}

/** Whether the call carries this session's token: a page of another origin can't read it. */
export function hasCsrfToken(req: Request): boolean {
  const sent = Buffer.from(req.get('x-csrf-token') ?? '');
  const known = Buffer.from(req.session?.csrfToken ?? '');
  // By bytes: a header may hold what is no ASCII.
  return known.length > 0 && sent.length === known.length && timingSafeEqual(sent, known);
}
