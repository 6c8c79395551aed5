/** How much a search may try. Nobody waits for ever: the answer says when it was not enough. */
export interface Budget {
  /** One more visit put down in thought. */
  take(): void;
  /** Nothing is left, or whoever asked no longer waits. */
  spent(): boolean;
}

/** A search gives up after having put down so many visits. */
export const MAX_TRIED = 4000;

/** @param stop asked now and then: whether to end the search at once, with what has been found */
export function budgetOf(limit = MAX_TRIED, stop: () => boolean = () => false): Budget {
  let left = limit;
  let stopped = false;
  return {
    take: () => {
      left--;
      stopped ||= stop();
    },
    spent: () => stopped || left < 0,
  };
}
