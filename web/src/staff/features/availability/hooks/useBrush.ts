import { useEffect, useState } from 'react';
import type { Brush } from '../panel.ts';

/** Which brush is held. Escape leaves it, unless something closer to the reader takes the key: a menu, a panel. */
export function useBrush() {
  const [brush, setBrush] = useState<Brush | null>(null);
  useEffect(() => {
    if (!brush) return;
    const leave = (event: KeyboardEvent) => {
      const inPanel = event.target instanceof Element && event.target.closest('aside');
      if (event.key === 'Escape' && !event.defaultPrevented && !inPanel) setBrush(null);
    };
    window.addEventListener('keydown', leave);
    return () => window.removeEventListener('keydown', leave);
  }, [brush]);
  return { brush, setBrush };
}
