import { startTransition, useEffect, useState } from 'react';

const MINUTE_MS = 60_000;

/**
 * The clinic's present, in whole minutes: what the server said, plus the time gone by since it said so. Looked at every
 * ten seconds; a full board is drawn again for it once a minute.
 */
export function useNow(serverNow: string | undefined, saidAt: number | undefined): string {
  const [clock, setClock] = useState(() => Date.now());
  useEffect(() => {
    // A full board is drawn again bit by bit: pointer and scrolling never wait for the clock.
    const timer = setInterval(() => startTransition(() => setClock(Date.now())), 10_000);
    return () => clearInterval(timer);
  }, []);
  const now = serverNow && saidAt ? Date.parse(serverNow) + Math.max(0, clock - saidAt) : clock;
  return new Date(Math.floor(now / MINUTE_MS) * MINUTE_MS).toISOString();
}
