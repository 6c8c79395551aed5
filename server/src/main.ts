import cluster, { type Worker } from 'node:cluster';
import { readConfig } from './platform/config/config.ts';
import { makeLog } from './platform/log/log.ts';
import { CannotListen, serve } from './serve.ts';

/** Starts one server process, or with ZAGUAN_PROCESSES several that share the port and the database. */
const processes = Number(process.env.ZAGUAN_PROCESSES ?? 1);

/** Growing pauses before a process that ended by itself is started again; one that lived a while begins anew. */
const FIRST_PAUSE_MS = 500;
const MAX_PAUSE_MS = 30_000;
const LIVED_MS = 60_000;

if (cluster.isPrimary && processes > 1) runSeveral(processes);
else await runOne();

function runSeveral(count: number): void {
  const log = makeLog(readConfig(process.env).log);
  let ready = 0;
  let stopping = false;
  let pauseMs = FIRST_PAUSE_MS;
  const born = new Map<number, number>();
  const fork = () => {
    const worker = cluster.fork();
    born.set(worker.id, performance.now());
  };
  for (let i = 0; i < count; i++) fork();
  cluster.on('message', () => {
    if (++ready === count) process.send?.({ ready: true });
  });
  cluster.on('exit', (worker: Worker, code, signal) => {
    const lived = performance.now() - (born.get(worker.id) ?? 0);
    born.delete(worker.id);
    if (stopping) return;
    // One that never was ready has said why itself, such as a port that is taken.
    if (ready < count) process.exit(code || 1);
    if (lived > LIVED_MS) pauseMs = FIRST_PAUSE_MS;
    log.error({ code, signal, againInMs: pauseMs }, 'a server process ended; another one is started');
    setTimeout(() => {
      if (!stopping) fork();
    }, pauseMs);
    pauseMs = Math.min(2 * pauseMs, MAX_PAUSE_MS);
  });
  const stop = () => {
    stopping = true;
    for (const worker of Object.values(cluster.workers ?? {})) worker?.process.kill('SIGTERM');
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
}

async function runOne(): Promise<void> {
  const server = await serve(process.env).catch((error: unknown) => {
    if (!(error instanceof CannotListen)) throw error;
    console.error(error.message);
    return process.exit(1);
  });
  process.send?.({ ready: true });
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    void server.stop().finally(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
}
