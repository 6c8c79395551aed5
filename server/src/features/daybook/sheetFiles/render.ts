import type { DayNote, DaySheetRow } from '@zaguan/contracts/daybook';
import { textCell, UTF8_MARK } from '@zaguan/core/csv';
import { SHEET_COLUMNS, type SheetWords, sheetCells } from '@zaguan/core/daybook';
import Papa from 'papaparse';

/** A site's day, as it goes onto a sheet. */
export interface Sheet {
  /** Its name, with its code: two may be called alike. */
  readonly site: string;
  readonly date: string;
  readonly timeZone: string;
  readonly rows: readonly DaySheetRow[];
  readonly notes: readonly DayNote[];
}

const HEADING = {
  ...{ start: 'Start', end: 'End', patient: 'Patient', birthDate: 'Date of birth', phone: 'Phone' },
  ...{ type: 'Visit type', with: 'With', where: 'Where', status: 'Status', reason: 'Reason', alert: 'Alert' },
} as const satisfies Record<(typeof SHEET_COLUMNS)[number], string>;
const HEADINGS = SHEET_COLUMNS.map((column) => HEADING[column]);

const STATUS: Partial<Record<DaySheetRow['status'], string>> = {
  ...{ pending: 'Pending', booked: 'Booked', arrived: 'Arrived', 'checked-in': 'Checked in' },
  ...{ fulfilled: 'Completed', noshow: 'No-show' },
};

const wordsOf = (timeZone: string): SheetWords<DaySheetRow> => ({
  namesHidden: false,
  redFlag: 'RED FLAG: see the record before check-in',
  timeOf: clockOf(timeZone),
  patientOf: (row) => row.patient,
  statusOf: (row) => (row.status === 'booked' && row.confirmed ? 'Confirmed' : (STATUS[row.status] ?? row.status)),
});

function clockOf(timeZone: string, more: Intl.DateTimeFormatOptions = {}): (instant: string) => string {
  const format = new Intl.DateTimeFormat('en-US', { timeZone, hour: 'numeric', minute: '2-digit', ...more });
  return (instant) => format.format(new Date(instant));
}

/** The sheet as CSV (RFC 4180), times on the site's clock; no cell that a spreadsheet takes for a formula. */
export function sheetAsCsv({ rows, timeZone }: Sheet): string {
  const words = wordsOf(timeZone);
  return (
    UTF8_MARK +
    Papa.unparse(
      { fields: HEADINGS, data: rows.map((row) => sheetCells(row, words).map(textCell)) },
      { newline: '\r\n' },
    )
  );
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
const text = (words: string): string => words.replace(/[&<>"']/g, (letter) => ESCAPES[letter]);

const STYLE = `body{font:14px/1.35 sans-serif;margin:24px;color:#1d1a17}h1{margin:0}table{border-collapse:collapse;width:100%}
th,td{border-bottom:1px solid #bbb;padding:4px 6px;text-align:left;vertical-align:top}thead{display:table-header-group}tr{break-inside:avoid}`;

/**
 * The sheet as a page that needs nothing besides: to be read and printed when neither server nor network work.
 *
 * @param asOf when it was read
 */
export function sheetAsPage({ site, date, timeZone, rows, notes }: Sheet, asOf: Date): string {
  const words = wordsOf(timeZone);
  const day = new Intl.DateTimeFormat('en-US', { dateStyle: 'full', timeZone: 'UTC' }).format(
    new Date(`${date}T00:00Z`),
  );
  const read = clockOf(timeZone, { month: 'short', day: 'numeric', timeZoneName: 'short' })(asOf.toISOString());
  const head = HEADINGS.map((heading) => `<th>${heading}</th>`).join('');
  const body = rows.map(
    (row) =>
      `<tr>${sheetCells(row, words)
        .map((cell) => `<td>${text(cell)}</td>`)
        .join('')}</tr>`,
  );
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>${text(site)}, ${date}</title><style>${STYLE}</style>
<h1>${text(site)}</h1><p><b>${day}</b>, ${rows.length} ${rows.length === 1 ? 'visit' : 'visits'}. As of ${read}. Later changes are not on it.</p>
${notes.length ? `<ul>${notes.map((note) => `<li>${text(note.text)}</li>`).join('')}</ul>` : ''}
<table><thead><tr>${head}</tr></thead><tbody>
${body.join('\n')}
</tbody></table></html>
`;
}
