import { useEffect, useMemo, useState } from 'react';

/** How names stand on plates (`text-plate` in the theme, bold). */
const FONT = '700 13px "Atkinson Hyperlegible Next Variable", sans-serif';

/**
 * How wide words are on a plate, in pixels. The function is a new one once the font is there, so that what was placed
 * with another font's widths is placed again.
 */
export function useTextWidth(): (words: string) => number {
  const [isLoaded, setLoaded] = useState(() => document.fonts.check(FONT));
  useEffect(() => {
    let gone = false;
    void document.fonts.load(FONT).then(() => !gone && setLoaded(true));
    return () => {
      gone = true;
    };
  }, []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the font's arrival is what makes the widths others.
  return useMemo(() => {
    const context = document.createElement('canvas').getContext('2d');
    if (!context) throw new Error('The browser can’t measure text.');
    context.font = FONT;
    const known = new Map<string, number>();
    return (words) => {
      const found = known.get(words);
      if (found !== undefined) return found;
      const width = Math.ceil(context.measureText(words).width);
      known.set(words, width);
      return width;
    };
  }, [isLoaded]);
}
