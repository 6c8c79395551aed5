import Papa from 'papaparse';

export { textCell, UTF8_MARK } from '@zaguan/core/csv';

/** A table as CSV (RFC 4180): a heading, then a line for each row. Cells go out as they are: texts through `textCell`. */
export function toCsvText(fields: readonly string[], rows: readonly (readonly string[])[]): string {
  return Papa.unparse({ fields: [...fields], data: rows.map((row) => [...row]) }, { newline: '\r\n' });
}

/** Hands a file to the browser. */
export function download(name: string, text: string, type = 'text/csv;charset=utf-8'): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
