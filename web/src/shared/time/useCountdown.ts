import { useEffect, useState } from 'react';

/**
 * Seconds that are left, counted from an answer's own figure, so that a page with a wrong clock counts right.
 *
 * @param seconds as the answer gave them
 * @param since when it came, in milliseconds of the page's clock
 */
export function useCountdown(seconds: number, since: number): number {
  const [now, setNow] = useState(() => Date.now());
  // Starts anew with each answer: its figure counts from the moment it came.
  // biome-ignore lint/correctness/useExhaustiveDependencies: `since` is when that was
  useEffect(() => {
    setNow(Date.now());
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [since]);
  return Math.max(0, seconds - Math.floor(Math.max(0, now - since) / 1000));
}
