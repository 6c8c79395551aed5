import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import compression from 'compression';
import cookieParser from 'cookie-parser';
import express, { type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import pg from 'pg';
import { pinoHttp } from 'pino-http';
import { randomUUID } from 'node:crypto';
import { endpointsOf } from './endpoints.ts';
import { SmtpMail } from './carriers/smtpMail.ts';
import { SimulatedWebhooks } from './carriers/simulatedWebhooks.ts';
import { SimulatedMail } from './carriers/simulatedMail.ts';
import { SimulatedSms } from './carriers/simulatedSms.ts';
import { bookingSweeps } from './features/booking/index.ts';
import { delayRounds, sheetFileRounds } from './features/daybook/index.ts';
import { patientSearchSweeps } from './features/patientSearch/index.ts';
import { RecallKeeper } from './features/recalls/index.ts';
import { ResidentClinic } from './features/openings/index.ts';
import { verificationSweeps } from './features/verification/index.ts';
import { Sweeper } from './platform/jobs/sweeper.ts';
import { PLATFORM_SWEEPS } from './platform/jobs/sweeps.sql.ts';
import { Dispatcher, carrierWebhooks } from './features/messages/index.ts';
import { sessions } from './platform/auth/session.ts';
import type { Config } from './platform/config/config.ts';
import { isDatabaseAway } from './platform/db/failures.ts';
import { openOrm, type Orm, SESSION } from './platform/db/orm.ts';
import { Failure } from './platform/endpoint/failure.ts';
import { mount, sendFailure } from './platform/endpoint/mount.ts';
import { LiveHub, liveSubscriber } from './platform/events/live.ts';
import { HeavyThreads } from './platform/heavy/heavyThreads.ts';
import { Relay } from './platform/events/relay.ts';
import { callerKey } from './platform/http/address.ts';
import { DatabaseRateLimitStore } from './platform/http/rateLimitStore.ts';
import { describeError, makeLog } from './platform/log/log.ts';

const HERE = dirname(fileURLToPath(import.meta.url));
const WEB = join(HERE, '../../web/dist');
const HEALTH_MS = 1_500;
/** The longest wait for the database, in milliseconds: for a new connection, a free one of the shared pool, a lock, a statement. */
const CONNECT_MS = 10_000;
const QUEUE_MS = 20_000;
const LOCK_MS = 20_000;
const STATEMENT_MS = 30_000;
/** The threads' program is built beside this one. */
const HEAVY_WORKER = join(HERE, 'heavyWorker.js');
const DOCS = dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'));

export interface Running {
  readonly app: Express;
  readonly orm: Orm;
  /** Ends the live lines: their pages come back to another process. */
  endLines(): void;
  close(): Promise<void>;
}

/** Puts the server together: database, events, endpoints, pages. Listens to nothing yet. */
export async function makeApp(config: Config): Promise<Running> {
  const log = makeLog(config.log);
  const orm = await openOrm({
    url: config.databaseUrl,
    connections: config.connections,
    timeouts: { connectMs: CONNECT_MS, lockMs: LOCK_MS, statementMs: STATEMENT_MS },
  });
  const pool = new pg.Pool({
    connectionString: config.databaseUrl,
    options: SESSION,
    max: 6,
    connectionTimeoutMillis: QUEUE_MS,
    statement_timeout: STATEMENT_MS,
    lock_timeout: LOCK_MS,
  });
  pool.on('error', () => log.warn('a pooled connection was lost'));
  const relay = new Relay(orm, [liveSubscriber], log);
  const hub = new LiveHub(config.databaseUrl, log);
  await hub.start();
  relay.start();
  const clinic = new ResidentClinic(pool);
  const heavy = new HeavyThreads(HEAVY_WORKER, { databaseUrl: config.databaseUrl });
  const simulatedClockOf = async () =>
    new Date(
      Date.now() +
        Number((await pool.query<{ offset_ms: string }>('select offset_ms from domain_clock')).rows[0].offset_ms),
    );
  const simulatedMailServer = new SimulatedMail(pool, simulatedClockOf);
  const mail = new SmtpMail(config.smtpUrl ?? (await simulatedMailServer.start()), config.mail);
  const addresses = { publicUrl: config.publicUrl, mailFrom: config.mail.from };
  const dispatcher = new Dispatcher(
    orm,
    { sms: new SimulatedSms(pool, simulatedClockOf), email: mail },
    { linkSecret: config.secret, ...addresses },
    log,
  );
  const unitDeps = { orm, relay, linkSecret: config.secret, addresses, clinic };
  const back = new SimulatedWebhooks(pool, simulatedClockOf, carrierWebhooks(unitDeps), (error) => {
    if (!isDatabaseAway(error)) log.error({ error: describeError(error) }, 'what came back was not taken; it stays');
  });
  back.start();
  dispatcher.start();
  const sweeper = new Sweeper(
    orm,
    [...PLATFORM_SWEEPS, ...bookingSweeps, ...verificationSweeps, ...patientSearchSweeps],
    [
      { name: 'delays', run: delayRounds(unitDeps) },
      ...(config.sheetFolder ? [{ name: 'day sheets', run: sheetFileRounds(unitDeps, config.sheetFolder) }] : []),
    ],
    log,
  );
  sweeper.start();
  const recalls = new RecallKeeper(orm, log);
  recalls.start();

  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', config.trustedProxies.length ? [...config.trustedProxies] : false);
  app.use(
    pinoHttp({
      logger: log,
      genReqId: () => randomUUID(),
      serializers: {
        req: (req: { id: string; method: string }) => ({ id: req.id, method: req.method }),
        res: (res: { statusCode: number }) => ({ status: res.statusCode }),
        err: () => undefined,
      },
      customProps: (req, res) => (res.writableEnded ? { route: (req as express.Request).routeName ?? 'page' } : {}),
      quietReqLogger: true,
    }),
  );
  app.use((req, _res, next) => {
    req.requestId = String(req.id);
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'default-src': ["'self'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:'],
          'upgrade-insecure-requests': config.https ? [] : null,
        },
      },
      strictTransportSecurity: config.https,
      referrerPolicy: { policy: 'no-referrer' },
    }),
  );
  app.use(cookieParser());
  app.get('/healthz', async (_req, res) => {
    const alive = await Promise.race([
      pool.query('select 1').then(
        () => true,
        () => false,
      ),
      // A database that does not answer is away, however long it takes to find out.
      new Promise<false>((resolve) => setTimeout(() => resolve(false), HEALTH_MS).unref()),
    ]);
    res.status(alive ? 200 : 503).json({ ok: alive, database: alive ? 'up' : 'away' });
  });

  const mounted = endpointsOf(config);
  // Put together when somebody asks: it takes longer than all else at the start.
  let document: Promise<object> | null = null;
  app.get('/api/openapi.json', async (_req, res) => {
    document ??= import('./features/docs/openApi.ts').then(({ openApiDocument }) =>
      openApiDocument(mounted.map(({ endpoint }) => endpoint)),
    );
    res.json(await document);
  });
  app.use('/api/docs', express.static(join(WEB, '../docs-page')), express.static(DOCS, { index: false }));
  const limiter = (kind: 'read' | 'write' | 'sign-in') =>
    rateLimit({
      windowMs: 60_000,
      limit: config.limits[kind],
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      keyGenerator: callerKey,
      store: new DatabaseRateLimitStore(pool, `${kind}:`),
      handler: (req, res) => sendFailure(res, req, new Failure('TooManyRequests')),
    });
  const router = mount(mounted, {
    orm,
    relay,
    hub,
    log,
    secureCookies: config.https,
    linkSecret: config.secret,
    addresses,
    clinic,
    heavy,
    sessions: sessions(pool, config.secret, config.https),
    limiters: { read: limiter('read'), write: limiter('write'), 'sign-in': limiter('sign-in') },
  });
  // A browser keeps nothing of what concerns patients; a private feed is asked for again and again, and says if it is new.
  app.use(['/api', '/fhir'], (_req, res, next) => {
    res.set('Cache-Control', 'no-store');
    next();
  });
  app.use('/api', router);
  // FHIR clients look for their own root.
  app.use('/fhir', (req, res, next) => {
    req.url = `/fhir${req.url}`;
    router(req, res, next);
  });
  // Short, so that a text message has room for it.
  app.get('/v/:token', (req, res) => {
    const token = /^[\w-]{1,100}$/.test(req.params.token) ? req.params.token : '';
    res.set('Cache-Control', 'no-store').redirect(`/book/v/${token}`);
  });
  app.get('/i/:token', (req, res) => {
    const token = /^[\w-]{1,100}$/.test(req.params.token) ? req.params.token : '';
    res.set('Cache-Control', 'no-store').redirect(`/book/i/${token}`);
  });
  // One click in a mail program posts to the address in the mail itself (RFC 8058).
  app.post('/book/stop/:token', (req, res, next) => {
    req.url = `/public/stop/${req.params.token}`;
    router(req, res, next);
  });
  pages(app);
  return {
    app,
    orm,
    endLines: () => hub.endLines(),
    close: async () => {
      await recalls.stop();
      await sweeper.stop();
      await dispatcher.stop();
      await back.stop();
      mail.close();
      if (!config.smtpUrl) await simulatedMailServer.stop();
      await relay.stop();
      await hub.stop();
      await heavy.stop();
      await pool.end();
      await orm.close(true);
    },
  };
}

/** The two web applications, each its own build: patients under /book, staff everywhere else. */
function pages(app: Express): void {
  // Files alone are made smaller: an answer with a secret in it must not tell by its length what it holds (BREACH).
  app.use(compression());
  const assets = { index: false, maxAge: '1y', immutable: true } as const;
  app.use('/book/assets', express.static(join(WEB, 'patient/assets'), assets));
  app.use('/assets', express.static(join(WEB, 'staff/assets'), assets));
  app.use('/book', (_req, res) => sendPage(res, 'patient'));
  app.use((_req, res) => sendPage(res, 'staff'));
}

function sendPage(res: express.Response, name: 'patient' | 'staff'): void {
  const file = join(WEB, name, 'index.html');
  if (!existsSync(file))
    return void res.status(503).type('text').send('The pages are not built yet. Run: npm run build --workspace web');
  res.set('Cache-Control', 'no-cache').sendFile(file);
}
