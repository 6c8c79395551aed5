import { type RefObject, useEffect, useRef } from 'react';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import type { BoardPart } from '../hooks/useBoardParts.ts';
import { Skeleton } from './Skeleton.tsx';

/** How far outside of what is seen a site is loaded already. */
const AHEAD_PX = 500;
const BEING_LOADED = { isFetching: true, refetch: () => undefined };

/** In the place of a site's day that isn't loaded: its name, its shape, or why it can't be. Says when it comes into sight. */
export function ToCome({
  of: { key, title, query },
  board,
  onSee,
}: {
  of: Pick<BoardPart, 'key' | 'title' | 'query'>;
  board: RefObject<HTMLElement | null>;
  onSee: ((key: string) => void) | undefined;
}) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    const element = box.current;
    if (!element || !onSee) return;
    const watch = new IntersectionObserver(([{ isIntersecting }]) => isIntersecting && onSee(key), {
      root: board.current,
      rootMargin: `${AHEAD_PX}px`,
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, [board, key, onSee]);
  return (
    <section
      ref={box}
      aria-label={title}
      data-to-come
      aria-busy={query?.isFetching ?? false}
      className="min-w-48 shrink-0"
    >
      <h2 className="bg-highlight px-2 text-sm font-bold">{title}</h2>
      <QueryFrame query={query ?? BEING_LOADED} skeleton={<Skeleton sites={1} />} />
    </section>
  );
}
