/**
 * A place at which a test can kill the process outright (kill -9), to see that nothing is lost: named by
 * ZAGUAN_FAILPOINT. Does nothing otherwise.
 */
export function failpoint(name: string): void {
  if (process.env.ZAGUAN_FAILPOINT === name) process.kill(process.pid, 'SIGKILL');
}
