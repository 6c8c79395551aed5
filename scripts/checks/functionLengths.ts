import { parseSync } from '@swc/core';

interface Node {
  readonly type: string;
  readonly span: { readonly start: number; readonly end: number };
  readonly identifier?: { readonly value: string } | null;
  readonly id?: { readonly value?: string };
  readonly [key: string]: unknown;
}

/** A function that has a name, and how many lines it is long. */
export interface FunctionLength {
  readonly name: string;
  readonly lines: number;
}

const isNode = (value: unknown): value is Node =>
  typeof value === 'object' && value !== null && typeof (value as { type?: unknown }).type === 'string';

/** Every declared function of a source file, and every one that a constant holds; those within others too. */
export function functionLengths(source: string, tsx: boolean): FunctionLength[] {
  const bytes = Buffer.from(source);
  const ast = parseSync(source, { syntax: 'typescript', tsx }) as unknown as Node;
  // Places are counted over all files that were parsed, in bytes; the module ends where its text does.
  const offset = ast.span.end - Buffer.byteLength(source.trimEnd());
  const found: FunctionLength[] = [];
  const visit = (node: unknown, held: string | undefined): void => {
    if (Array.isArray(node)) for (const each of node) visit(each, undefined);
    else if (typeof node === 'object' && node !== null) {
      const name = isNode(node) ? nameOf(node, held) : undefined;
      if (name && isNode(node)) {
        const text = bytes.subarray(node.span.start - offset, node.span.end - offset).toString();
        found.push({ name, lines: text.split('\n').length });
      }
      const holds = isNode(node) && node.type === 'VariableDeclarator' ? node.id?.value : undefined;
      for (const [key, value] of Object.entries(node)) if (key !== 'span') visit(value, holds);
    }
  };
  visit(ast.body, undefined);
  return found;
}

function nameOf({ type, identifier }: Node, held: string | undefined): string | undefined {
  if (type === 'FunctionDeclaration') return identifier?.value;
  return type === 'ArrowFunctionExpression' || type === 'FunctionExpression' ? held : undefined;
}
