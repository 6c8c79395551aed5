/** A field that stands in a line of several. */
export const SMALL =
  'rounded-md border border-line-strong bg-panel px-2 py-1 aria-invalid:border-2 aria-invalid:border-danger';
