import type { Server } from 'node:http';

/** Whoever was being answered gets so long; after that the line is cut. */
const MAX_DRAIN_MS = 10_000;
/** A request may already be on its way on a line that is kept open. */
const LINGER_MS = 250;

/**
 * Makes a server end without cutting anybody off: it takes no new connections, answers what is under way and what comes
 * on lines that are open, tells each line that it is the last answer, and ends when all are answered.
 *
 * @returns a function that does so, once
 */
export function drainable(server: Server): () => Promise<void> {
  let draining = false;
  let open = 0;
  let whenIdle: (() => void) | null = null;
  server.prependListener('request', (_req, res) => {
    open++;
    if (draining) res.setHeader('Connection', 'close');
    res.once('close', () => {
      open--;
      if (open === 0) whenIdle?.();
    });
  });
  return async () => {
    draining = true;
    const closed = new Promise<void>((resolve) => server.close(() => resolve()));
    const deadline = setTimeout(() => server.closeAllConnections(), MAX_DRAIN_MS);
    await new Promise((resolve) => setTimeout(resolve, LINGER_MS));
    if (open > 0)
      await Promise.race([
        new Promise<void>((resolve) => {
          whenIdle = resolve;
        }),
        closed,
      ]);
    server.closeIdleConnections();
    await closed;
    clearTimeout(deadline);
  };
}
