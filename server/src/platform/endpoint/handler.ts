import type { Endpoint, ErrorsOf, InputOf, OutputOf } from '@zaguan/contracts';
import type { Request, Response } from 'express';
import type { HeavyWork } from '../heavy/heavyTask.ts';
import type { Ctx } from './context.ts';
import type { Failure } from './failure.ts';

/** What a use case answers: wire values, or a refusal that its contract lists. */
export type AnswerOf<E> = OutputOf<E> | Failure<ErrorsOf<E>>;

/** A use case: parsed input in, wire values or a failure out. */
export type Handler<E> = (ctx: Ctx, input: InputOf<E>) => Promise<AnswerOf<E>>;

/** What the mount needs of one endpoint. */
export interface Mounted {
  readonly endpoint: Endpoint;
  readonly run: (ctx: Ctx, input: never) => Promise<unknown>;
  /** What a refused call wrote stays (a wrong try must count). */
  readonly keepsRefused?: boolean;
}

/** Joins an endpoint with its use case; the types make sure that they belong together. */
export function handle<E extends Endpoint>(endpoint: E, run: Handler<E>): Mounted {
  return { endpoint, run: run as Mounted['run'] };
}

/** The same for a use case whose refusals leave a mark, such as a counted wrong try. */
export function handleKeeping<E extends Endpoint>(endpoint: E, run: Handler<E>): Mounted {
  return { ...handle(endpoint, run), keepsRefused: true };
}

/** What work outside the transaction has at hand. */
export interface HeavyContext {
  readonly heavy: HeavyWork;
  /** Aborted when the caller has left. */
  readonly signal: AbortSignal;
  /** For limits of one at a time; `null`: not a member of staff. */
  readonly accountId: string | null;
}

/** An endpoint whose real work takes long: it is prepared in a transaction, and done after it in a thread. */
export interface HeavyHooks extends Pick<Mounted, 'keepsRefused'> {
  readonly endpoint: Endpoint;
  readonly run: Mounted['run'];
  readonly outside: (prepared: never, outside: HeavyContext) => Promise<unknown>;
}

/**
 * Joins an endpoint with a use case in two halves: what needs the database and the caller's rights, and what takes
 * long. No transaction and no connection is held while the second runs.
 */
export function handleHeavy<E extends Endpoint, P extends object>(
  endpoint: E,
  prepare: (ctx: Ctx, input: InputOf<E>) => Promise<P | Failure<ErrorsOf<E>>>,
  outside: (prepared: P, outside: HeavyContext) => Promise<AnswerOf<E>>,
): HeavyHooks {
  return { endpoint, run: prepare as Mounted['run'], outside: outside as HeavyHooks['outside'] };
}

/** The call itself, for the few that need it. */
export interface Http {
  readonly req: Request;
  readonly res: Response;
}

/** Sign-in and sign-out touch the session itself; they get the request, everything else does not. */
export interface SessionHooks {
  readonly endpoint: Endpoint;
  readonly runWithSession: (ctx: Ctx, input: never, http: Http) => Promise<unknown>;
}

export function handleSession<E extends Endpoint>(
  endpoint: E,
  run: (ctx: Ctx, input: InputOf<E>, http: Http) => Promise<AnswerOf<E>>,
): SessionHooks {
  return { endpoint, runWithSession: run as SessionHooks['runWithSession'] };
}
