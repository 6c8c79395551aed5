/** SQLSTATE classes that mean the server is gone or going, not that the statement was wrong. */
const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ENOTFOUND',
  'ETIMEDOUT',
  '57P01',
  '57P02',
  '57P03',
  '08000',
  '08001',
  '08003',
  '08006',
  // Busy or full rather than gone: waited too long for a lock or an answer, no memory or connection left, disk full.
  '55P03',
  '57014',
  '53100',
  '53200',
  '53300',
]);

/** The disk of the database is full (SQLSTATE 53100): somebody must make room. */
export function isDiskFull(error: unknown): boolean {
  return chain(error).some((e) => codeOf(e) === '53100');
}

/** Another transaction was in the way (deadlock, serialization failure): the same work may succeed at once. */
export function isWorthRetrying(error: unknown): boolean {
  return chain(error).some((e) => codeOf(e) === '40P01' || codeOf(e) === '40001');
}

function chain(error: unknown): Error[] {
  const errors: Error[] = [];
  for (let e = error; e instanceof Error && errors.length < 6; e = e.cause) errors.push(e);
  return errors;
}

function codeOf(error: Error): string | undefined {
  return 'code' in error && typeof error.code === 'string' ? error.code : undefined;
}

/** Whether the database could not be reached; the same call may succeed later. */
export function isDatabaseAway(error: unknown): boolean {
  return chain(error).some(
    (e) =>
      AWAY.has(codeOf(e) ?? '') ||
      e.name === 'KnexTimeoutError' ||
      /Connection terminated|Unable to acquire a connection|Client has encountered a connection error|timeout exceeded when trying to connect|timeout expired/.test(
        e.message,
      ),
  );
}

/** Whether the exclusion constraint refused a double booking (SQLSTATE 23P01). */
export function isTimeTaken(error: unknown): boolean {
  return chain(error).some((e) => codeOf(e) === '23P01');
}

/** Whether a unique index refused a second one of the same (SQLSTATE 23505). */
export function isTwice(error: unknown): boolean {
  return chain(error).some((e) => codeOf(e) === '23505');
}
