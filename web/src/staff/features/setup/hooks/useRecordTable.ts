import type { SetupRecord } from '@zaguan/contracts/setup';
import {
  type ColumnDef,
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  type RowSelectionState,
  type SortingState,
  useReactTable,
  type VisibilityState,
} from '@tanstack/react-table';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { DocOf } from '../docs.ts';
import { fieldWords } from '../fieldWords.ts';
import { TABLES, type TableConfig, type TableKind } from '../kinds.ts';
import type { Refs } from './useRefs.ts';

/**
 * Records of a kind as a table: searched, sorted, chosen, with the columns one wants.
 *
 * @param imported what has just come out of a file: it is shown, whatever was searched for before
 */
export function useRecordTable<K extends TableKind>(
  kind: K,
  records: readonly SetupRecord<DocOf[K]>[],
  refs: Refs,
  { narrow, imported }: { narrow: boolean; imported: readonly string[] },
) {
  const { t } = useTranslation();
  const config = TABLES[kind] as TableConfig<K>;
  const [search, setSearch] = useState('');
  const [archived, setArchived] = useState(false);
  const [sorting, setSorting] = useState<SortingState>([]);
  const [selection, setSelection] = useState<RowSelectionState>({});
  const [visibility, setVisibility] = useState<VisibilityState>(() =>
    Object.fromEntries(config.columns.map(({ id, shown }) => [id, shown])),
  );
  const firstOnly = useMemo<VisibilityState>(
    () => Object.fromEntries(config.columns.map(({ id }, i) => [id, i === 0])),
    [config],
  );
  // The table keeps what it has worked out for a row as long as the row is the same: names that come later ask for new rows.
  // biome-ignore lint/correctness/useExhaustiveDependencies: see above
  const data = useMemo(() => records.filter(({ active }) => active !== archived), [records, archived, refs]);
  const columns = useMemo<ColumnDef<SetupRecord<DocOf[K]>>[]>(
    () =>
      config.columns.map(({ id, value }) => ({
        id,
        accessorFn: (record) => value(record.doc, refs, t),
        header: fieldWords(t, kind, id),
        sortingFn: 'alphanumeric',
      })),
    [config, refs, t, kind],
  );
  const table = useReactTable({
    data: data as SetupRecord<DocOf[K]>[],
    columns,
    state: {
      globalFilter: search,
      sorting,
      rowSelection: selection,
      columnVisibility: narrow ? firstOnly : visibility,
    },
    getRowId: ({ id }) => id,
    onSortingChange: setSorting,
    onRowSelectionChange: setSelection,
    onColumnVisibilityChange: setVisibility,
    globalFilterFn: 'includesString',
    getCoreRowModel: getCoreRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  useEffect(() => {
    if (!imported.length) return;
    setSearch('');
    setArchived(false);
    document.querySelector(`[data-record="${CSS.escape(imported[0])}"]`)?.scrollIntoView({ block: 'center' });
  }, [imported]);
  return { table, data, search, setSearch, archived, setArchived, selection, setSelection };
}

export type RecordTableState<K extends TableKind> = ReturnType<typeof useRecordTable<K>>;
