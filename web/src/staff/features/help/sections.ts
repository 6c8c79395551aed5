import MiniSearch from 'minisearch';

export interface HelpText {
  readonly id: string;
  readonly title: string;
  /** Markdown. */
  readonly text: string;
}

/** What stands under one heading, as it is found and pointed to. */
export interface HelpSection {
  readonly id: string;
  readonly page: string;
  readonly pageTitle: string;
  /** The heading's anchor; empty for what stands before the first. */
  readonly slug: string;
  readonly heading: string;
  readonly text: string;
}

/** The anchor that `rehype-slug` gives a heading; a rule's heading is found by the rule's code. */
export function slugOf(heading: string): string {
  const code = /^`([^`]+)`/.exec(heading)?.[1];
  if (code) return code;
  return heading
    .toLowerCase()
    .replace(/[^\p{L}\p{N}\s-]/gu, '')
    .trim()
    .replace(/\s/g, '-');
}

/** A rule's code stands before its words for the tests that read the same file; people read the words. */
const CODE_OF_RULE = /^`[^`]+`: /;

const plain = (markdown: string) =>
  markdown
    .replace(CODE_OF_RULE, '')
    .replace(/```\w*/g, '')
    .replace(/\]\([^)]*\)/g, ']')
    .replace(/[`*]/g, '')
    .replace(/[|[\]#]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** A page in the pieces between its headings of the second and third level. */
export function sectionsOf({ id, title, text }: HelpText): HelpSection[] {
  const pieces = text.split(/^(?=#{2,3} )/m);
  return pieces.flatMap((piece, i) => {
    const heading = /^#{2,3} (.+)$/m.exec(piece)?.[1] ?? '';
    const body = plain(piece.replace(/^#{1,3} .+$/m, ''));
    if (i > 0 && !heading) return [];
    const slug = heading && slugOf(heading);
    return [{ id: `${id}#${slug}`, page: id, pageTitle: title, slug, heading: plain(heading) || title, text: body }];
  });
}

const MAX_FOUND = 12;

/** Looks for sections that hold every word, begun or with a slip of the finger; headings count more than text. */
export function helpSearch(pages: readonly HelpText[]): (words: string) => HelpSection[] {
  const sections = new Map(pages.flatMap(sectionsOf).map((section) => [section.id, section]));
  const index = new MiniSearch({
    fields: ['heading', 'text'],
    searchOptions: { boost: { heading: 4 }, prefix: true, fuzzy: 0.2, combineWith: 'AND' },
  });
  index.addAll([...sections.values()]);
  return (words) =>
    index
      .search(words)
      .slice(0, MAX_FOUND)
      .flatMap(({ id }) => sections.get(id) ?? []);
}
