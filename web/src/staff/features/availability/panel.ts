/** What the panel at the right is about. */
export type Panel =
  | { readonly kind: 'day'; readonly lane: string; readonly day: number }
  | {
      readonly kind: 'edit';
      readonly lane: string;
      readonly day: number;
      readonly stretch: number;
      readonly moved: Moved | null;
    }
  | { readonly kind: 'new'; readonly lane: string | null; readonly day: number | null; readonly span: Span | null }
  | { readonly kind: 'away'; readonly resourceId: string | null; readonly day: number | null }
  | { readonly kind: 'keep-free'; readonly lane: string; readonly day: number; readonly span: Span | null }
  | { readonly kind: 'copy'; readonly resourceId: string | null }
  | { readonly kind: 'copy-day'; readonly lane: string; readonly day: number }
  | { readonly kind: 'paint'; readonly lane: string | null; readonly day: number | null }
  | { readonly kind: 'close'; readonly siteId: string | null }
  | { readonly kind: 'why-not'; readonly lane: string; readonly start: string }
  | { readonly kind: 'calendar'; readonly lane: string }
  | { readonly kind: 'requests' }
  | { readonly kind: 'draft' }
  | { readonly kind: 'coming' };

export interface Span {
  readonly fromMinute: number;
  readonly toMinute: number;
}

/** Where hours were dragged to. */
export interface Moved extends Span {
  readonly day: number;
}

/** What the brush paints. */
export const BRUSHES = ['shown', 'desk-only', 'by-rule'] as const;
export type Brush = (typeof BRUSHES)[number];
