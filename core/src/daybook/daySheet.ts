/** A visit as it stands on a day sheet; instants are ISO in UTC. */
export interface SheetLine {
  readonly start: string;
  readonly end: string;
  readonly birthDate: string | null;
  /** E.164. */
  readonly phone: string | null;
  readonly visitType: string;
  readonly provider: string | null;
  readonly places: readonly string[];
  readonly reason: string;
  readonly alert: string;
  /** Whether a red flag stands. */
  readonly held: boolean;
}

/** How a line is said. */
export interface SheetWords<Line extends SheetLine> {
  /** On the site's clock. */
  readonly timeOf: (instant: string) => string;
  readonly patientOf: (line: Line) => string;
  readonly statusOf: (line: Line) => string;
  readonly redFlag: string;
  /** Where others look on: nothing of who comes. */
  readonly namesHidden: boolean;
}

/** What a line's cells are, in their order. */
export const SHEET_COLUMNS = [
  ...(['start', 'end', 'patient', 'birthDate', 'phone', 'type', 'with', 'where', 'status', 'reason', 'alert'] as const),
] as const;

/** A visit's cells on a day sheet. That a red flag stands is said whoever looks on: it names nobody. */
export function sheetCells<Line extends SheetLine>(line: Line, words: SheetWords<Line>): string[] {
  const { namesHidden, timeOf, redFlag } = words;
  const ofPerson = (text: string | null) => (namesHidden ? '' : (text ?? ''));
  return [
    ...[timeOf(line.start), timeOf(line.end), words.patientOf(line)],
    ...[ofPerson(line.birthDate), ofPerson(line.phone)],
    ...[line.visitType, line.provider ?? '', line.places.join('; '), words.statusOf(line), ofPerson(line.reason)],
    [line.held && redFlag, ofPerson(line.alert)].filter(Boolean).join('. '),
  ];
}
