/** A spreadsheet reads a cell that begins like this as a formula (OWASP, CSV injection; from memory). */
const LIKE_A_FORMULA = /^[=+@\t\r-]/;

/** A text as a cell that no spreadsheet takes for a formula. */
export function textCell(text: string): string {
  return LIKE_A_FORMULA.test(text) ? `'${text}` : text;
}

/** A spreadsheet knows by this mark at the beginning that a file is UTF-8. */
export const UTF8_MARK = '\uFEFF';
