import { type Logger, pino } from 'pino';

export type { Logger };

/**
 * The process log: one JSON object a line on standard output. Requests are logged by route pattern, never by URL,
 * header or body, so that no patient data, token or cookie can get in.
 */
export function makeLog(level: string): Logger {
  return pino({ level, base: undefined, timestamp: pino.stdTimeFunctions.isoTime });
}

/** What may be said of an unexpected error: its kind, SQLSTATE and stack, but no message (it may quote values). */
export function describeError(error: unknown): { kind: string; code?: string; stack?: string } {
  if (!(error instanceof Error)) return { kind: typeof error };
  const code = 'code' in error && typeof error.code === 'string' ? error.code : undefined;
  const frames = error.stack
    ?.split('\n')
    .filter((line) => line.trimStart().startsWith('at '))
    .slice(0, 12)
    .join('\n');
  return { kind: error.name, code, stack: frames };
}
