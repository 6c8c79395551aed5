import type { DaySheetRow } from '@zaguan/contracts/daybook';
import { textCell, toCsvText } from '../../../shared/csv.ts';

/** How a row of the sheet is said; names are left out where others look on. */
export interface SheetWords {
  readonly timeOf: (instant: string) => string;
  readonly patientOf: (row: DaySheetRow) => string;
  readonly statusOf: (row: DaySheetRow) => string;
  readonly namesHidden: boolean;
}

/**
 * A day sheet as CSV: a line for each visit, times on the site's clock. With names hidden it says nothing of who comes.
 *
 * @param headings of the ten columns, in their order
 */
export function sheetCsv(rows: readonly DaySheetRow[], headings: readonly string[], words: SheetWords): string {
  const { namesHidden } = words;
  return toCsvText(
    headings,
    rows.map((row) =>
      [
        words.timeOf(row.start),
        words.timeOf(row.end),
        words.patientOf(row),
        namesHidden ? '' : (row.birthDate ?? ''),
        // E.164 begins with a plus: as text, it is no formula.
        namesHidden ? '' : (row.phone ?? ''),
        row.visitType,
        row.provider ?? '',
        row.places.join('; '),
        words.statusOf(row),
        namesHidden ? '' : row.reason,
      ].map(textCell),
    ),
  );
}
