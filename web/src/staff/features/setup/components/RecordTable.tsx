import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import type { SetupRecord } from '@zaguan/contracts/setup';
import {
  type ColumnDef,
  flexRender,
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  type RowSelectionState,
  type SortingState,
  useReactTable,
  type VisibilityState,
} from '@tanstack/react-table';
import { Popover } from 'radix-ui';
import { type ChangeEvent, type ReactNode, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { fieldWords, fieldWordsOr } from '../fieldWords.ts';
import { TickField } from '../../../../shared/ui/inputs.tsx';
import { Button } from '../../../../shared/ui/Button.tsx';
import type { DocOf } from '../docs.ts';
import type { Refs } from '../hooks/useRefs.ts';
import { TABLES, type TableConfig, type TableKind } from '../kinds.ts';

interface Props<K extends TableKind> {
  readonly kind: K;
  readonly records: readonly SetupRecord<DocOf[K]>[];
  readonly refs: Refs;
  readonly openId: string | null;
  /** Only the first column: a wide record stands beside. */
  readonly narrow: boolean;
  readonly onOpen: (id: string) => void;
  /** Beside the search. */
  readonly tools: ReactNode;
  /** What can be done with those that are chosen. */
  readonly chosen: (ids: readonly string[], clear: () => void) => ReactNode;
}

/** Records of a kind: searched, sorted, with the columns one wants; archived ones only if asked for. */
export function RecordTable<K extends TableKind>({
  kind,
  records,
  refs,
  openId,
  narrow,
  onOpen,
  tools,
  chosen,
}: Props<K>) {
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
  const rows = table.getRowModel().rows;
  const ids = Object.keys(selection).filter((id) => data.some((record) => record.id === id));
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-2">
        <input
          type="search"
          aria-label={t('setup.search')}
          placeholder={t('setup.search')}
          className="w-52 rounded-md border border-line-strong bg-panel px-3 py-1.5"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
        {!narrow && (
          <Popover.Root>
            <Popover.Trigger asChild>
              <Button>{t('setup.columns')}</Button>
            </Popover.Trigger>
            <Popover.Portal>
              <Popover.Content
                align="start"
                sideOffset={4}
                className="z-40 flex flex-col gap-1 rounded-md border border-line-strong bg-panel p-3"
              >
                {table.getAllLeafColumns().map((column) => (
                  <TickField
                    key={column.id}
                    checked={column.getIsVisible()}
                    onChange={column.getToggleVisibilityHandler()}
                  >
                    {fieldWordsOr(t, kind, column.id)}
                  </TickField>
                ))}
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
        )}
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4 accent-accent"
            checked={archived}
            onChange={(event) => {
              setArchived(event.target.checked);
              setSelection({});
            }}
          />
          {t('setup.archived')}
        </label>
        {!narrow && <span className="ml-auto flex gap-2">{tools}</span>}
      </div>
      {ids.length > 0 && (
        <div className="flex flex-wrap items-center gap-2 border-b border-line bg-surface-deep px-4 py-2">
          <span className="font-semibold">{t('setup.chosen', { count: ids.length })}</span>
          {chosen(ids, () => setSelection({}))}
        </div>
      )}
      <ScrollRegion sideways className="min-h-0 flex-1 " aria-label={t(`setup.place.${kind}`)}>
        <table className="w-full border-collapse text-left">
          <thead className="sticky top-0 z-10 bg-surface">
            <tr className="border-b border-line-strong">
              <th scope="col" className="w-9 py-1.5 pl-4 align-bottom">
                <Tick
                  label={t('setup.chooseAll')}
                  checked={rows.length > 0 && table.getIsAllRowsSelected()}
                  onChange={table.getToggleAllRowsSelectedHandler()}
                />
              </th>
              {table.getLeafHeaders().map((header) => {
                const sorted = header.column.getIsSorted();
                return (
                  <th
                    key={header.id}
                    scope="col"
                    aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
                    className="py-1.5 pr-3 align-bottom"
                  >
                    <button
                      type="button"
                      className="relative pr-4 text-left font-bold"
                      onClick={header.column.getToggleSortingHandler()}
                    >
                      {flexRender(header.column.columnDef.header, header.getContext())}
                      <span aria-hidden="true" className="absolute right-0 bottom-0 text-muted">
                        {sorted === 'asc' ? '▴' : sorted === 'desc' ? '▾' : ''}
                      </span>
                    </button>
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr
                key={row.id}
                data-record={row.id}
                className={`border-b border-line ${row.id === openId ? 'bg-accent-subtle' : 'hover:bg-surface-deep'}`}
              >
                <td className="py-1 pl-4">
                  <Tick
                    label={t('setup.choose', { name: String(row.getVisibleCells()[0]?.getValue() ?? '') })}
                    checked={row.getIsSelected()}
                    onChange={row.getToggleSelectedHandler()}
                  />
                </td>
                {row.getVisibleCells().map((cell, i) => (
                  <td key={cell.id} className="py-1 pr-3">
                    {i === 0 ? (
                      <button
                        type="button"
                        className="py-0.5 text-left font-semibold underline decoration-line-strong underline-offset-2"
                        onClick={() => onOpen(row.id)}
                      >
                        {String(cell.getValue())}
                      </button>
                    ) : (
                      String(cell.getValue())
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        {!rows.length && (
          <p className="px-4 py-6 text-muted">
            {t(search ? 'setup.noneFound' : archived ? 'setup.noneArchived' : `setup.none.${kind}`)}
          </p>
        )}
      </ScrollRegion>
    </div>
  );
}

/** A small box with room around it to be hit (WCAG 2.5.8). */
function Tick({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (event: ChangeEvent<HTMLInputElement>) => void;
}) {
  return (
    <label className="relative inline-flex size-[24px] items-center justify-center align-middle">
      <input
        type="checkbox"
        aria-label={label}
        className="peer absolute inset-0 size-full cursor-pointer opacity-0"
        checked={checked}
        onChange={onChange}
      />
      <span
        aria-hidden="true"
        className="flex size-[15px] items-center justify-center rounded-sm border border-muted bg-panel text-[0.8rem] leading-none text-transparent peer-checked:border-accent peer-checked:bg-accent peer-checked:text-on-fill peer-focus-visible:outline-3 peer-focus-visible:outline-offset-2 peer-focus-visible:outline-accent"
      >
        ✓
      </span>
    </label>
  );
}
