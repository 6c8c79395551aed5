import type { Server } from 'node:http';
import { makeApp, type Running } from './app.ts';
import { drainable } from './drain.ts';
import { type Config, readConfig } from './platform/config/config.ts';

/** Said to whoever starts the server, without more. */
export class CannotListen extends Error {}

/** A server that listens. */
export interface Serving {
  /** Takes nothing new, answers what is under way, and closes what was opened. */
  stop(): Promise<void>;
}

/**
 * Starts a server as these settings of the environment say, in this process.
 *
 * @throws CannotListen when the port is taken or can't be had
 */
export async function serve(env: NodeJS.ProcessEnv): Promise<Serving> {
  const config = readConfig(env);
  const running = await makeApp(config);
  const server = await listening(running, config);
  const drain = drainable(server);
  return {
    stop: async () => {
      running.endLines();
      await drain();
      await running.close();
    },
  };
}

async function listening({ app, close }: Running, { port, host }: Config): Promise<Server> {
  try {
    return await new Promise((resolve, reject) => {
      const server = app.listen(port, host, (error?: Error) => (error ? reject(error) : resolve(server)));
      // Longer than a proxy or a client keeps an idle connection: Node's five seconds would close it just as the
      // next request is on its way, and that request would be lost.
      server.keepAliveTimeout = 75_000;
      server.headersTimeout = 80_000;
    });
  } catch (error) {
    await close();
    const isTaken = error instanceof Error && 'code' in error && error.code === 'EADDRINUSE';
    throw new CannotListen(
      isTaken ? `Port ${port} is taken by another program. Set PORT to another one.` : 'The server could not listen.',
      { cause: error },
    );
  }
}
