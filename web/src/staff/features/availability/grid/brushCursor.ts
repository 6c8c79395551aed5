import type { Brush } from '../panel.ts';

/** The theme's color of each brush; what it paints in the week has the same. */
const COLORS: Record<Brush, string> = {
  shown: '--color-accent',
  'desk-only': '--color-warning',
  'by-rule': '--color-panel',
};

/** A brush whose tip has the color it paints in, as a CSS cursor; the point that counts is at the tip. */
export function brushCursor(brush: Brush): string {
  const theme = getComputedStyle(document.documentElement);
  const [tip, line, edge] = [COLORS[brush], '--color-foreground', '--color-panel'].map((name) =>
    theme.getPropertyValue(name).trim(),
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="28" height="28" viewBox="0 0 28 28">
<path d="M10 16 L22 3 L26 7 L13 19 Z" fill="${line}" stroke="${edge}" stroke-width="1.5"/>
<path d="M2 26 C2 20 5 16 10 16 L13 19 C13 24 8 26 2 26 Z" fill="${tip}" stroke="${line}" stroke-width="1.5"/></svg>`;
  return `url("data:image/svg+xml,${encodeURIComponent(svg)}") 2 26, crosshair`;
}
