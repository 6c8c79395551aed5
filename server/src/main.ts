import cluster from 'node:cluster';
import { makeApp } from './app.ts';
import { readConfig } from './platform/config/config.ts';

/** Starts one server process, or with ZAGUAN_PROCESSES several that share the port and the database. */
const processes = Number(process.env.ZAGUAN_PROCESSES ?? 1);

if (cluster.isPrimary && processes > 1) {
  let ready = 0;
  for (let i = 0; i < processes; i++) cluster.fork();
  cluster.on('message', () => {
    if (++ready === processes) process.send?.({ ready: true });
  });
  const stop = () => {
    for (const worker of Object.values(cluster.workers ?? {})) worker?.process.kill('SIGTERM');
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
} else {
  const config = readConfig(process.env);
  const running = await makeApp(config);
  const server = running.app.listen(config.port, config.host, (error?: Error) => {
    if (error) {
      console.error(
        'code' in error && error.code === 'EADDRINUSE'
          ? `Port ${config.port} is taken by another program. Set PORT to another one.`
          : 'The server could not listen.',
      );
      process.exit(1);
    }
    process.send?.({ ready: true });
  });
  // Longer than a proxy or a client keeps an idle connection: Node's five seconds would close it just as the
  // next request is on its way, and that request would be lost.
  server.keepAliveTimeout = 75_000;
  server.headersTimeout = 80_000;
  const stop = () => {
    server.close(() => void running.close().then(() => process.exit(0)));
    server.closeAllConnections();
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
}
