import { useVirtualizer } from '@tanstack/react-virtual';
import type { RefObject } from 'react';

/** As many rows are drawn at once, whatever is in sight: then the browser's own search finds them all. */
const ALL_DRAWN = 150;
/** Rows drawn above and below what is in sight, for the Tab key and a quick hand. */
const OVERSCAN = 25;

interface VirtualRows {
  /** The rows to draw, by their places in the list. */
  readonly indexes: readonly number[];
  /** Height of what is not drawn above and below, in CSS pixels. */
  readonly before: number;
  readonly after: number;
  /** Given to each drawn row as `ref`, with its `data-index`: rows may be of any height. */
  readonly measure: (row: Element | null) => void;
}

/**
 * Which rows of a long table are drawn: those in sight and around it, where there are many; else all.
 *
 * @param scroller what the table scrolls in
 * @param rowPx what a row is likely to be high, until it is measured
 */
export function useVirtualRows(count: number, scroller: RefObject<HTMLElement | null>, rowPx: number): VirtualRows {
  const isLong = count > ALL_DRAWN;
  const virtualizer = useVirtualizer({
    count,
    enabled: isLong,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowPx,
    overscan: OVERSCAN,
  });
  if (!isLong)
    return { indexes: Array.from({ length: count }, (_, i) => i), before: 0, after: 0, measure: () => undefined };
  const items = virtualizer.getVirtualItems();
  return {
    indexes: items.map(({ index }) => index),
    before: items[0]?.start ?? 0,
    after: virtualizer.getTotalSize() - (items.at(-1)?.end ?? 0),
    measure: virtualizer.measureElement,
  };
}
