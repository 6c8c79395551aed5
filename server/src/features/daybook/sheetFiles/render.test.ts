import type { DaySheetRow } from '@zaguan/contracts/daybook';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { sheetName } from './files.ts';
import { sheetAsCsv, sheetAsPage } from './render.ts';

const row: DaySheetRow = {
  ...{ id: 'v', start: '2026-12-01T16:20:00.000Z', end: '2026-12-01T16:40:00.000Z', status: 'booked', confirmed: true },
  ...{ visitType: 'Follow-up', provider: 'Dr. Amaya', places: ['Exam 1', 'Exam 2'], patient: 'Yamamoto, Wren' },
  ...{ birthDate: '1987-03-04', phone: '+13125550142', reason: '=HYPERLINK("x")', alert: '<b>Latex</b>', held: true },
};
const sheet = { site: 'Canal Row', date: '2026-12-01', timeZone: 'America/Chicago', rows: [row], notes: [] };

describe('a day sheet as a file', () => {
  it('is a CSV that reads back as it was, on the site’s clock, without formulas (RFC 4180; papaparse)', () => {
    const [cells] = Papa.parse<Record<string, string>>(sheetAsCsv(sheet).slice(1), { header: true }).data;
    expect(cells).toMatchObject({
      ...{
        Start: '10:20 AM',
        End: '10:40 AM',
        Patient: 'Yamamoto, Wren',
        Where: 'Exam 1; Exam 2',
        Status: 'Confirmed',
      },
      ...{ Phone: "'+13125550142", Reason: '\'=HYPERLINK("x")' },
    });
    // What a clinician must see comes first.
    expect(cells.Alert).toMatch(/^RED FLAG.+Latex/);
  });

  it('is a page that says how old it is and lets nothing typed become markup', () => {
    const note = { id: 'n', text: 'Fire <drill>', fromMinute: null, toMinute: null, by: 'Ines', version: 1 };
    const page = sheetAsPage({ ...sheet, notes: [note] }, new Date('2026-12-01T16:21:00Z'));
    expect(page).toContain('Tuesday, December 1, 2026');
    expect(page).toContain('As of Dec 1, 10:21 AM CST');
    expect(page).toContain('Fire &lt;drill&gt;');
    expect(page).not.toContain('<b>Latex');
    expect(page).not.toMatch(/https?:|<script|<link/);
  });

  it('has a name that any file system bears', () => {
    expect(sheetName('Canal / Row: "A"', '2026-12-01', 'csv')).toBe('day-sheet Canal - Row- -A- 2026-12-01.csv');
  });
});
