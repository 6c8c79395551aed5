import { type Endpoint, ERROR_STATUS, type ErrorBody, faultCode, scopeOf } from '@zaguan/contracts';
import express, { type NextFunction, type Request, type RequestHandler, type Response, Router } from 'express';
import { hasCsrfToken, isSignedIn, staffOf } from '../auth/session.ts';
import { isDatabaseAway, isDiskFull, isTimeTaken } from '../db/failures.ts';
import type { Orm } from '../db/orm.ts';
import type { LiveHub } from '../events/live.ts';
import type { Relay } from '../events/relay.ts';
import { callerHashes } from '../http/address.ts';
import { browserHash } from '../http/browser.ts';
import type { HeavyWork } from '../heavy/heavyTask.ts';
import { describeError, type Logger } from '../log/log.ts';
import { unitOfWork } from '../uow/unitOfWork.ts';
import { type Actor, type Addresses, type ClinicReader, includesSite, sitesFor } from './context.ts';
import { Failure, RolledBack } from './failure.ts';
import { unusableTexts } from './texts.ts';
import type { HeavyHooks, Mounted, SessionHooks } from './handler.ts';

export interface MountDeps {
  readonly orm: Orm;
  readonly relay: Relay;
  readonly hub: LiveHub;
  readonly log: Logger;
  readonly secureCookies: boolean;
  readonly linkSecret: string;
  readonly addresses: Addresses;
  readonly clinic: ClinicReader;
  readonly heavy: HeavyWork;
  readonly sessions: RequestHandler;
  readonly limiters: Record<'read' | 'write' | 'sign-in', RequestHandler>;
}

const UNKNOWN_FHIR = 'fhir.unknown';

/** More than any form needs; endpoints that take files say more. */
const DEFAULT_BODY_BYTES = 65_536;

type Any = Mounted | SessionHooks | HeavyHooks;

/**
 * Walks the registered endpoints once and gives each the same five stops: authenticate, authorize by the contract's
 * access, parse, one transaction around the use case, check and send. No route has its own.
 */
export function mount(endpoints: readonly Any[], deps: MountDeps): Router {
  const router = Router();
  for (const mounted of endpoints) {
    const { endpoint } = mounted;
    const before: RequestHandler[] = [
      (req, _res, next) => {
        req.routeName = endpoint.name;
        next();
      },
    ];
    if (endpoint.access.kind === 'public') before.push(deps.limiters[endpoint.access.limit]);
    if (!endpoint.path.startsWith('/public/')) before.push(deps.sessions);
    router[endpoint.method](
      endpoint.path,
      ...before,
      express.json({ limit: endpoint.bodyLimit ?? DEFAULT_BODY_BYTES }),
      // A FHIR client searches by a form in the body (R4 §3.1.1.4.1).
      ...(endpoint.answers === 'fhir' ? [express.urlencoded({ extended: false, limit: DEFAULT_BODY_BYTES })] : []),
      (req, res, next) => answer(mounted, deps, req, res).catch(next),
    );
  }
  router.use((req, _res, next) => {
    // FHIR clients read an OperationOutcome, also of a type that is not kept here.
    if (req.path.startsWith('/fhir')) req.routeName = UNKNOWN_FHIR;
    next(new RolledBack(new Failure('NotFound')));
  });
  router.use((error: unknown, req: Request, res: Response, _next: NextFunction) =>
    sendFailure(res, req, toFailure(error, req, deps.log)),
  );
  return router;
}

async function answer(mounted: Any, deps: MountDeps, req: Request, res: Response): Promise<void> {
  const { endpoint } = mounted;
  const staff = endpoint.path.startsWith('/public/') ? null : staffOf(req);
  const refused = refuse(endpoint, staff, req);
  if (refused) return sendFailure(res, req, refused);
  if (endpoint.answers === 'stream') return stream(deps, staff, req, res);
  const input = parse(endpoint, req);
  if (input instanceof Failure) return sendFailure(res, req, input);
  const actor: Actor = staff ?? { kind: 'patient' };
  const browser = endpoint.path.startsWith('/public/') ? browserHash(req, res, deps.secureCookies) : null;
  const prepared = await runInTransaction(mounted, deps, actor, browser, input, { req, res });
  const result =
    'outside' in mounted && !(prepared instanceof Failure)
      ? await runOutside(mounted, deps, actor, prepared, res)
      : prepared;
  if (result instanceof Failure) return sendFailure(res, req, result);
  send(res, endpoint, result);
}

/** The long half of a use case. Whoever leaves ends it. */
async function runOutside(
  mounted: HeavyHooks,
  deps: MountDeps,
  actor: Actor,
  prepared: unknown,
  res: Response,
): Promise<unknown> {
  const left = new AbortController();
  res.on('close', () => left.abort());
  const value = await mounted.outside(prepared as never, {
    heavy: deps.heavy,
    signal: left.signal,
    accountId: actor.kind === 'staff' ? actor.accountId : null,
  });
  return value instanceof Failure ? value : checkOutput(mounted.endpoint, value, deps.log);
}

function send(res: Response, endpoint: Endpoint, result: unknown): void {
  switch (endpoint.answers) {
    case 'calendar':
      return void res
        .type('text/calendar; charset=utf-8')
        .set('Content-Disposition', `attachment; filename="${endpoint.fileName ?? 'calendar.ics'}"`)
        .set(endpoint.path.startsWith('/public/feeds/') ? { 'Cache-Control': 'private, no-cache' } : {})
        .send(String(result));
    case 'pdf':
      return void res
        .type('application/pdf')
        .set('Content-Disposition', `inline; filename="${endpoint.fileName ?? 'document.pdf'}"`)
        .send(Buffer.from(String(result), 'base64'));
    case 'fhir':
      return void res
        .type('application/fhir+json; charset=utf-8')
        .set(versionHeaders(result))
        .send(JSON.stringify(result));
    default:
      res.json(result);
  }
}

/** A resource's version as an ETag (FHIR R4 §3.1.0.1.3): who has it already is told so in a word. */
function versionHeaders(result: unknown): Record<string, string> {
  const { meta } = result as { meta?: { versionId?: string; lastUpdated?: string } };
  if (!meta?.versionId) return {};
  return {
    ETag: `W/"${meta.versionId}"`,
    ...(meta.lastUpdated && { 'Last-Modified': new Date(meta.lastUpdated).toUTCString() }),
  };
}

function refuse(endpoint: Endpoint, staff: Extract<Actor, { kind: 'staff' }> | null, req: Request): Failure | null {
  // A page of another site can send simple requests with cookies; browsers name where a request comes from.
  if (req.get('sec-fetch-site') === 'cross-site' && req.method !== 'GET') return new Failure('NotAllowed');
  if (endpoint.access.kind === 'public') return null;
  if (!staff) return new Failure('NotSignedIn');
  if (endpoint.access.kind === 'role' && scopeOf(staff.role, endpoint.access.action) === 'no')
    return new Failure('NotAllowed', { facts: { action: endpoint.access.action } });
  if (endpoint.method !== 'get' && !hasCsrfToken(req)) return new Failure('StalePage');
  return null;
}

function parse(endpoint: Endpoint, req: Request): Record<string, unknown> | Failure {
  const input: Record<string, unknown> = {};
  const issues: { path: string; code: string }[] = [];
  const sources = { params: req.params, query: req.query, body: req.body ?? {} };
  issues.push(...Object.values(sources).flatMap((source) => unusableTexts(source)));
  if (issues.length) return new Failure('InvalidInput', { issues });
  for (const part of ['params', 'query', 'body'] as const) {
    const read = endpoint[part]?.safeParse(sources[part]);
    if (!read) continue;
    if (read.success) Object.assign(input, read.data);
    // Issues name places and kinds of fault, never the value that was sent.
    else issues.push(...read.error.issues.map((issue) => ({ path: issue.path.join('.'), code: faultCode(issue) })));
  }
  return issues.length ? new Failure('InvalidInput', { issues }) : input;
}

async function runInTransaction(
  mounted: Any,
  deps: MountDeps,
  actor: Actor,
  browser: Buffer | null,
  input: Record<string, unknown>,
  http: { req: Request; res: Response },
): Promise<unknown> {
  const { endpoint } = mounted;
  return unitOfWork(
    deps,
    {
      command: endpoint.name,
      actor,
      requestId: http.req.requestId,
      browserHash: browser,
      caller: browser && callerHashes(http.req, deps.linkSecret),
      readsPatients: endpoint.readsPatients ?? false,
      once: 'runWithSession' in mounted,
      // A refused sign-in must still count.
      keepsRefused: 'runWithSession' in mounted || mounted.keepsRefused === true,
    },
    async (ctx) => {
      const value =
        'runWithSession' in mounted
          ? await mounted.runWithSession(ctx, input as never, http)
          : await mounted.run(ctx, input as never);
      return value instanceof Failure || 'outside' in mounted ? value : checkOutput(endpoint, value, deps.log);
    },
  );
}

/**
 * Checks what goes out. Where the contract has a place for `unreadable` rows, a row that is not as agreed is taken out of
 * its list, named there and told in the log: one bad row must not take a whole list away from everybody.
 */
function checkOutput(endpoint: Endpoint, value: unknown, log: Logger): unknown {
  const checked = endpoint.output.safeParse(value);
  if (checked.success) return checked.data;
  const unreadable: unknown = (value as { unreadable?: unknown } | null)?.unreadable;
  if (!Array.isArray(unreadable)) throw checked.error;
  const bad = new Map<unknown[], Set<number>>();
  for (const { path, code } of checked.error.issues) {
    const at = path.findIndex((step) => typeof step === 'number');
    if (at < 0) throw checked.error;
    const list = path.slice(0, at).reduce<unknown>((in_, step) => (in_ as Record<PropertyKey, unknown>)[step], value);
    bad.set(list as unknown[], (bad.get(list as unknown[]) ?? new Set()).add(path[at] as number));
    log.error({ route: endpoint.name, at: path.slice(at + 1).join('.'), code }, 'a row could not be shown');
  }
  for (const [list, indexes] of bad)
    for (const index of [...indexes].sort((a, b) => b - a)) {
      const [row] = list.splice(index, 1) as { id?: string; appointmentId?: string }[];
      unreadable.push(row?.id ?? row?.appointmentId ?? '');
    }
  return endpoint.output.parse(value);
}

function toFailure(error: unknown, req: Request, log: Logger): Failure {
  if (error instanceof RolledBack) return error.failure;
  if (isTimeTaken(error)) return new Failure('TimeTaken');
  if (isDiskFull(error))
    log.fatal({ requestId: req.requestId }, 'the disk of the database is full: nothing can be saved');
  if (isDatabaseAway(error)) return new Failure('DatabaseAway');
  // body-parser's own refusals (broken JSON, too large) carry a 4xx status.
  if (error instanceof Error && 'status' in error && Number(error.status) < 500)
    return new Failure('InvalidInput', {
      issues: [{ path: '', code: error.status === 413 ? 'too-large' : 'unreadable' }],
    });
  log.error({ requestId: req.requestId, route: req.routeName, error: describeError(error) }, 'unexpected');
  return new Failure('Unexpected');
}

/** The error table: a tag's status stands in the contracts, its words in the interface. */
export function sendFailure(res: Response, req: Request, { tag, details }: Failure): void {
  if (res.headersSent) return void res.end();
  if (req.routeName?.startsWith('fhir.')) return void sendOutcome(res, req, tag, details.issues);
  const body: ErrorBody = {
    error: {
      tag,
      requestId: req.requestId,
      facts: { ...details.facts },
      ...(details.issues && { issues: [...details.issues] }),
      ...(details.codes && { codes: [...details.codes] }),
      ...(details.nearest && { nearest: [...details.nearest] }),
    },
  };
  res.status(ERROR_STATUS[tag]).json(body);
}

/** FHIR clients read an OperationOutcome (R4; issue types from memory). */
function sendOutcome(
  res: Response,
  req: Request,
  tag: keyof typeof ERROR_STATUS,
  issues: readonly { path: string; code: string }[] = [],
): void {
  // An id of another form is that of nothing here.
  if (tag === 'InvalidInput' && issues.length && issues.every(({ path }) => path === 'id')) {
    sendOutcome(res, req, 'NotFound');
    return;
  }
  const code =
    req.routeName === UNKNOWN_FHIR
      ? 'not-supported'
      : ({ NotFound: 'not-found', NotSignedIn: 'login', NotAllowed: 'forbidden', InvalidInput: 'invalid' }[
          tag as string
        ] ?? 'exception');
  res
    .status(ERROR_STATUS[tag])
    .type('application/fhir+json; charset=utf-8')
    .send(
      JSON.stringify({
        resourceType: 'OperationOutcome',
        issue: issues.length
          ? issues.map(({ path, code: what }) => ({
              severity: 'error',
              code,
              diagnostics: `${what} (${req.requestId})`,
              // The parameter, not the how-manieth of its choices.
              expression: [path.split('.')[0]],
            }))
          : [{ severity: 'error', code, diagnostics: `${tag} (${req.requestId})` }],
      }),
    );
}

/** Proxies and browsers close a line on which nothing moves; a comment now and then keeps it. */
const HEARTBEAT_MS = 20_000;
/** How soon a line ends after its session: signing out, a changed role, or its time being up. */
const SESSION_LOOK_MS = 3_000;

function stream(deps: MountDeps, staff: Extract<Actor, { kind: 'staff' }> | null, req: Request, res: Response): void {
  res.set({ 'Content-Type': 'text/event-stream', Connection: 'keep-alive', 'X-Accel-Buffering': 'no' });
  res.flushHeaders();
  res.write('retry: 1000\n\n');
  const allowed = staff
    ? sitesFor({ actor: staff, scope: (action) => scopeOf(staff.role, action) }, 'daybook.view')
    : 'none';
  const stop = deps.hub.listen(
    (event) => {
      if (event.type === 'day-changed' && !includesSite(allowed, event.siteId)) return;
      res.write(`data: ${JSON.stringify(event)}\n\n`);
    },
    () => res.end(),
  );
  const beat = setInterval(() => res.write(': still here\n\n'), HEARTBEAT_MS);
  const look = setInterval(
    () =>
      req.sessionStore.get(req.sessionID, (error, session) => {
        // A database that is away for a moment ends nobody's line.
        if (!error && !isSignedIn(session)) res.end();
      }),
    SESSION_LOOK_MS,
  );
  res.on('close', () => {
    clearInterval(beat);
    clearInterval(look);
    stop();
  });
}
