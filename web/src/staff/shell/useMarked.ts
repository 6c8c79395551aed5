import { useEffect, useRef } from 'react';

/** How the thing looks that a link led to. */
export const MARKED = 'outline-3 outline-offset-2 outline-accent';

/** Brings the thing that a link led to into sight. */
export function useMarked(isMarked: boolean) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    if (isMarked) box.current?.scrollIntoView({ block: 'center' });
  }, [isMarked]);
  return box;
}
