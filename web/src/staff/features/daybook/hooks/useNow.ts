import { startTransition, useEffect, useState } from 'react';

/** The clinic's present: what the server said, plus the time gone by since it said so. Moves every ten seconds. */
export function useNow(serverNow: string | undefined, saidAt: number | undefined): string {
  const [clock, setClock] = useState(() => Date.now());
  useEffect(() => {
    // A full board is drawn again bit by bit: pointer and scrolling never wait for the clock.
    const timer = setInterval(() => startTransition(() => setClock(Date.now())), 10_000);
    return () => clearInterval(timer);
  }, []);
  if (!serverNow || !saidAt) return new Date(clock).toISOString();
  return new Date(Date.parse(serverNow) + Math.max(0, clock - saidAt)).toISOString();
}
