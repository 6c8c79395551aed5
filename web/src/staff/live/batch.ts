/**
 * Gathers what comes within a moment and hands it on once: a page that hears of twenty changes at once asks once.
 *
 * @param waitMs from the first that comes until all are handed on
 */
export function inBatches<T>(waitMs: number, handOn: (batch: readonly T[]) => void) {
  let batch: T[] = [];
  let timer: ReturnType<typeof setTimeout> | null = null;
  return {
    add(item: T): void {
      batch.push(item);
      timer ??= setTimeout(() => {
        const gathered = batch;
        batch = [];
        timer = null;
        handOn(gathered);
      }, waitMs);
    },
    stop(): void {
      if (timer) clearTimeout(timer);
      timer = null;
      batch = [];
    },
  };
}
