import type { ComponentProps } from 'react';

interface Props extends ComponentProps<'section'> {
  /** Names the region for who can't see it. */
  readonly 'aria-label': string;
  /** Its content may be wider than the page on purpose: a day's hours, a table. */
  readonly sideways?: boolean;
}

/** A part of a page that scrolls by itself, and can be scrolled by keyboard (WCAG 2.1.1). */
export function ScrollRegion({ sideways, className = '', ...rest }: Props) {
  return (
    <section
      data-sideways={sideways || undefined}
      className={`overflow-auto ${className}`}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reachable by keyboard
      tabIndex={0}
      {...rest}
    />
  );
}
