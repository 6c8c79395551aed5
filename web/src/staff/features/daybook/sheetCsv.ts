import type { DaySheetRow } from '@zaguan/contracts/daybook';
import { type SheetWords, sheetCells } from '@zaguan/core/daybook';
import { textCell, toCsvText } from '../../../shared/csv.ts';

/**
 * A day sheet as CSV: a line for each visit, times on the site's clock. With names hidden it says nothing of who comes.
 *
 * @param headings of the columns, in the order of `SHEET_COLUMNS`
 */
export function sheetCsv(
  rows: readonly DaySheetRow[],
  headings: readonly string[],
  words: SheetWords<DaySheetRow>,
): string {
  return toCsvText(
    headings,
    rows.map((row) => sheetCells(row, words).map(textCell)),
  );
}
