import Papa from 'papaparse';

/** A spreadsheet reads a cell that begins like this as a formula (OWASP, CSV injection; from memory). */
const LIKE_A_FORMULA = /^[=+@\t\r-]/;

/** A text as a cell that no spreadsheet takes for a formula. */
export function textCell(text: string): string {
  return LIKE_A_FORMULA.test(text) ? `'${text}` : text;
}

/** A table as CSV (RFC 4180): a heading, then a line for each row. Cells go out as they are: texts through `textCell`. */
export function toCsvText(fields: readonly string[], rows: readonly (readonly string[])[]): string {
  return Papa.unparse({ fields: [...fields], data: rows.map((row) => [...row]) }, { newline: '\r\n' });
}

/** A spreadsheet knows by this mark at the beginning that a file is UTF-8. */
export const UTF8_MARK = '\uFEFF';

/** Hands a file to the browser. */
export function download(name: string, text: string, type = 'text/csv;charset=utf-8'): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
