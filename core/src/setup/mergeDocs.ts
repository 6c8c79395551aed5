export type Doc = Readonly<Record<string, unknown>>;

export interface MergedDocs {
  /** Mine, with whatever only the other one changed. */
  readonly doc: Doc;
  /** Fields that only the other one changed, and that were therefore taken over. */
  readonly taken: readonly string[];
  /** Fields that both changed, differently: mine stand in `doc` until somebody chooses. */
  readonly both: readonly string[];
}

/** Equal whatever the order in which an object's fields were written. */
function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const [x, y] = [a as Doc, b as Doc];
  const keys = Object.keys(x);
  return keys.length === Object.keys(y).length && keys.every((key) => key in y && same(x[key], y[key]));
}

/**
 * Joins two edits of one document, field by field (three-way): nothing of either is lost without being named.
 *
 * @param base the document both began with
 * @param mine what one is about to save
 * @param theirs what the other one has saved
 */
export function mergeDocs(base: Doc, mine: Doc, theirs: Doc): MergedDocs {
  const doc: Record<string, unknown> = { ...mine };
  const taken: string[] = [];
  const both: string[] = [];
  for (const field of Object.keys(theirs)) {
    if (same(theirs[field], base[field]) || same(theirs[field], mine[field])) continue;
    if (same(mine[field], base[field])) {
      doc[field] = theirs[field];
      taken.push(field);
    } else both.push(field);
  }
  return { doc, taken, both };
}
