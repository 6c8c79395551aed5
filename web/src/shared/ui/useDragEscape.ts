import { type RefObject, useEffect, useRef } from 'react';

/**
 * Lets Escape give up a drag that is under way. The drag puts its `cancel` here when it begins and `null` when it ends;
 * nobody else hears that Escape.
 */
export function useDragEscape(): RefObject<(() => void) | null> {
  const cancel = useRef<(() => void) | null>(null);
  useEffect(() => {
    const leave = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || !cancel.current) return;
      event.stopImmediatePropagation();
      const giveUp = cancel.current;
      // Once: the drag ends a moment later, and the next Escape is somebody else's.
      cancel.current = null;
      giveUp();
    };
    window.addEventListener('keydown', leave, { capture: true });
    return () => window.removeEventListener('keydown', leave, { capture: true });
  }, []);
  return cancel;
}
