import type { SetupRecord } from '@zaguan/contracts/setup';
import Papa from 'papaparse';
import { textCell, toCsvText } from '../../../shared/csv.ts';
import type { Refs } from './hooks/useRefs.ts';

export type CsvType =
  | 'text'
  | 'text-or-null'
  | 'number'
  | 'number-or-null'
  | 'yes-no'
  | 'words'
  | 'site'
  | 'pool'
  | 'sites';

/** A column of the file: a field of the document, by its own name. */
export interface CsvColumn {
  readonly field: string;
  readonly type: CsvType;
}

type Doc = Record<string, unknown>;
const LIST_MARK = '; ';

function toCell(value: unknown, type: CsvType, refs: Refs): string {
  if (value === null || value === undefined) return '';
  switch (type) {
    case 'yes-no':
      return value ? 'yes' : 'no';
    case 'site':
    case 'pool':
      return refs.nameOf(String(value));
    case 'sites':
      return (value as string[]).map((id) => refs.nameOf(id)).join(LIST_MARK);
    case 'words':
      return (value as string[]).join(LIST_MARK);
    default: {
      return typeof value === 'string' ? textCell(value) : String(value);
    }
  }
}

/** RFC 4180, with the record's id first so that it can be read back. */
export function toCsv(columns: readonly CsvColumn[], records: readonly SetupRecord<unknown>[], refs: Refs): string {
  return toCsvText(
    ['id', ...columns.map(({ field }) => field)],
    records.map(({ id, doc }) => [id, ...columns.map(({ field, type }) => toCell((doc as Doc)[field], type, refs))]),
  );
}

export interface CsvRow {
  /** Line of the file, the heading being the first. */
  readonly line: number;
  /** What it is about: an existing record, or a new one. */
  readonly id: string;
  readonly version: number;
  readonly isNew: boolean;
  readonly doc: Doc;
  readonly name: string;
  /** Codes by field; none if the row can be saved. */
  readonly faults: readonly { readonly field: string; readonly code: string; readonly text: string }[];
}

export type CsvRead =
  | { readonly ok: true; readonly rows: readonly CsvRow[]; readonly unknown: readonly string[] }
  | { readonly ok: false; readonly code: 'csv-empty' | 'csv-broken' | 'csv-too-many' | 'csv-no-columns' };

const MAX_ROWS = 500;
/** Rooms' short names are the shortest: 30 characters. */
const MAX_SHORT_NAME = 30;

function fromCell(
  text: string,
  { type }: CsvColumn,
  refs: Refs,
  siteId: unknown,
): { value: unknown } | { code: string } {
  const clean = text.trim().replace(/^'(?=[=+@-])/, '');
  const named = (options: readonly { value: string; label: string }[], name: string) =>
    options.find(({ label }) => label.toLowerCase() === name.trim().toLowerCase())?.value;
  switch (type) {
    case 'yes-no':
      return /^(yes|y|true|1)$/i.test(clean)
        ? { value: true }
        : /^(no|n|false|0|)$/i.test(clean)
          ? { value: false }
          : { code: 'csv-yes-no' };
    case 'number':
    case 'number-or-null': {
      if (clean === '' && type === 'number-or-null') return { value: null };
      return clean !== '' && Number.isFinite(Number(clean)) ? { value: Number(clean) } : { code: 'csv-number' };
    }
    case 'site': {
      const id = named(refs.sites, clean);
      return id ? { value: id } : { code: 'no-such-site' };
    }
    case 'pool': {
      if (clean === '') return { value: null };
      const id = named(
        refs.pools.filter((pool) => pool.siteId === siteId),
        clean,
      );
      return id ? { value: id } : { code: 'csv-no-such-pool' };
    }
    case 'sites': {
      const ids = clean === '' ? [] : clean.split(';').map((name) => named(refs.sites, name));
      return ids.every((id) => id !== undefined) ? { value: ids } : { code: 'no-such-site' };
    }
    case 'words':
      return {
        value: clean
          .split(';')
          .map((word) => word.trim())
          .filter(Boolean),
      };
    case 'text-or-null':
      return { value: clean === '' ? null : clean };
    default:
      return { value: clean };
  }
}

/** Records a line may mean: by id, or by name – at the site it names, since rooms of two sites may be called the same. */
function recordsMeant(
  cells: Readonly<Record<string, string>>,
  name: string,
  records: readonly SetupRecord<unknown>[],
  refs: Refs,
): readonly SetupRecord<unknown>[] {
  const id = cells.id?.trim();
  if (id) return records.filter((record) => record.id === id);
  if (name === '') return [];
  const site = cells.siteId?.trim().toLowerCase();
  return records.filter(({ doc }) => {
    const { name: taken, labelEn, siteId } = doc as Doc;
    const elsewhere = site && siteId !== undefined && refs.nameOf(String(siteId)).toLowerCase() !== site;
    return (taken ?? labelEn) === name && !elsewhere;
  });
}

/**
 * Reads a file against what is there: a row with a known id, or a name that is taken, changes that record; any other
 * makes a new one. Columns that are left out stay as they are. Nothing is saved here.
 *
 * @param check the faults of a whole document, by field
 */
export function readCsv(
  text: string,
  columns: readonly CsvColumn[],
  records: readonly SetupRecord<unknown>[],
  blank: () => Doc,
  refs: Refs,
  check: (doc: Doc) => readonly { field: string; code: string }[],
): CsvRead {
  if (!text.trim()) return { ok: false, code: 'csv-empty' };
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (header) => header.trim(),
  });
  if (parsed.errors.some(({ type }) => type === 'Quotes')) return { ok: false, code: 'csv-broken' };
  if (!parsed.data.length) return { ok: false, code: 'csv-empty' };
  if (parsed.data.length > MAX_ROWS) return { ok: false, code: 'csv-too-many' };
  const headers = parsed.meta.fields ?? [];
  const present = columns.filter(({ field }) => headers.includes(field));
  if (!present.length) return { ok: false, code: 'csv-no-columns' };
  const changed = new Set<string>();
  const rows = parsed.data.map((cells, i) => {
    const name = (cells.name ?? cells.labelEn ?? '').trim();
    const meant = recordsMeant(cells, name, records, refs);
    const known = meant[0];
    const doc: Doc = structuredClone((known?.doc as Doc | undefined) ?? blank());
    const faults: { field: string; code: string; text: string }[] = [];
    if (meant.length > 1) faults.push({ field: 'name', code: 'csv-ambiguous', text: name });
    if (known && changed.has(known.id)) faults.push({ field: 'name', code: 'csv-twice', text: name });
    if (known) changed.add(known.id);
    for (const column of present) {
      const cell = cells[column.field] ?? '';
      const read = fromCell(cell, column, refs, doc.siteId);
      if ('code' in read) faults.push({ field: column.field, code: read.code, text: cell });
      else doc[column.field] = read.value;
    }
    // As on screen: who gives a name and no short one means the same.
    if (doc.shortName === '') doc.shortName = String(doc.name ?? '').slice(0, MAX_SHORT_NAME);
    for (const { field, code } of check(doc))
      if (!faults.some((fault) => fault.field === field))
        faults.push({ field, code, text: String(cells[field] ?? '') });
    return {
      line: i + 2,
      id: known?.id ?? crypto.randomUUID(),
      version: known?.version ?? 0,
      isNew: !known,
      doc,
      name: String(doc.name ?? name),
      faults,
    };
  });
  const unknown = headers.filter((header) => header !== 'id' && !columns.some(({ field }) => field === header));
  return { ok: true, rows, unknown };
}
