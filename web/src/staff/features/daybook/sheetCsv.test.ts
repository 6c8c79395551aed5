import type { DaySheetRow } from '@zaguan/contracts/daybook';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { sheetCsv } from './sheetCsv.ts';

const ROW: DaySheetRow = {
  id: 'v',
  start: '2026-12-01T14:00:00.000Z',
  end: '2026-12-01T14:20:00.000Z',
  status: 'booked',
  confirmed: true,
  visitType: 'Follow-up',
  provider: 'Dr. Amaya',
  places: ['Room 1', 'Room 2'],
  patient: 'Underhill, "Ivo"',
  birthDate: '1980-02-29',
  phone: '+13125550101',
  reason: '=HYPERLINK("http://example.com")',
  alert: 'Latex',
  held: true,
};
const HEADINGS = 'Start,End,Patient,Date of birth,Phone,Visit type,With,Where,Status,Reason,Alert'.split(',');
const words = (namesHidden: boolean) => ({
  namesHidden,
  redFlag: 'Red flag',
  timeOf: (instant: string) => instant.slice(11, 16),
  patientOf: (row: DaySheetRow) => (namesHidden ? 'Patient' : row.patient),
  statusOf: () => 'Confirmed',
});

describe('a day sheet as CSV', () => {
  it('is read back by another reader as it was, quotes and commas too (RFC 4180), and holds no formula', () => {
    const text = sheetCsv([ROW], HEADINGS, words(false));
    expect(text.endsWith('Confirmed,"\'=HYPERLINK(""http://example.com"")",Red flag. Latex')).toBe(true);
    const { data } = Papa.parse<Record<string, string>>(text, { header: true });
    expect(data).toEqual([
      {
        ...{ Start: '14:00', End: '14:20', Patient: 'Underhill, "Ivo"', 'Date of birth': '1980-02-29' },
        ...{ Phone: "'+13125550101", 'Visit type': 'Follow-up', With: 'Dr. Amaya', Where: 'Room 1; Room 2' },
        ...{ Status: 'Confirmed', Reason: '\'=HYPERLINK("http://example.com")' },
        Alert: 'Red flag. Latex',
      },
    ]);
  });

  it('says nothing of who comes where names are hidden, but that a red flag stands', () => {
    const text = sheetCsv([ROW], HEADINGS, words(true));
    expect(text).not.toMatch(/Underhill|1980|5550101|HYPERLINK|Latex/);
    expect(text.endsWith(',Red flag')).toBe(true);
    expect(text).toContain('Patient,,,Follow-up');
  });
});
