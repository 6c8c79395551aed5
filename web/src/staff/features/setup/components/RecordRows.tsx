import { flexRender, type Row, type Table } from '@tanstack/react-table';
import type { RefObject } from 'react';
import { useTranslation } from 'react-i18next';
import { RestOfRows } from '../../../../shared/ui/RestOfRows.tsx';
import { useVirtualRows } from '../../../../shared/ui/useVirtualRows.ts';
import { Tick } from './Tick.tsx';

/** What a line of one line of text is high, in CSS pixels. */
const ROW_PX = 32;

interface Props<Doc> {
  readonly table: Table<Doc>;
  /** What it scrolls in. */
  readonly scroller: RefObject<HTMLElement | null>;
  readonly openId: string | null;
  readonly imported: readonly string[];
  readonly onOpen: (id: string) => void;
}

/** Heads that sort, and a line for each record; what has just been imported is marked. */
export function RecordRows<Doc>({ table, scroller, openId, imported, onOpen }: Props<Doc>) {
  const rows = table.getRowModel().rows;
  const { indexes, before, after, measure } = useVirtualRows(rows.length, scroller, ROW_PX);
  const columns = table.getVisibleLeafColumns().length + 1;
  return (
    <table className="w-full border-collapse text-left" aria-rowcount={rows.length + 1}>
      <Heads table={table} />
      <tbody>
        <RestOfRows height={before} columns={columns} />
        {indexes.map((i) => (
          <RecordLine
            key={rows[i].id}
            row={rows[i]}
            place={i}
            measure={measure}
            isOpen={rows[i].id === openId}
            isImported={imported.includes(rows[i].id)}
            onOpen={onOpen}
          />
        ))}
        <RestOfRows height={after} columns={columns} />
      </tbody>
    </table>
  );
}

function Heads<Doc>({ table }: { table: Table<Doc> }) {
  const { t } = useTranslation();
  return (
    <thead className="sticky top-0 z-10 bg-surface">
      <tr className="border-b border-line-strong">
        <th scope="col" className="w-9 py-1.5 pl-4 align-bottom">
          <Tick
            label={t('setup.chooseAll')}
            checked={table.getRowModel().rows.length > 0 && table.getIsAllRowsSelected()}
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
                className="relative min-h-7 pr-4 text-left font-bold"
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
  );
}

interface LineProps<Doc> {
  readonly row: Row<Doc>;
  /** Among all rows. */
  readonly place: number;
  readonly measure: (row: Element | null) => void;
  readonly isOpen: boolean;
  readonly isImported: boolean;
  readonly onOpen: (id: string) => void;
}

function RecordLine<Doc>({ row, place, measure, isOpen, isImported, onOpen }: LineProps<Doc>) {
  const { t } = useTranslation();
  const look = isOpen ? 'bg-accent-subtle' : isImported ? 'bg-warning-subtle' : 'hover:bg-surface-deep';
  return (
    <tr
      ref={measure}
      data-index={place}
      // The heads are the first.
      aria-rowindex={place + 2}
      data-record={row.id}
      data-imported={isImported || undefined}
      className={`border-b border-line ${look}`}
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
              className="min-h-7 text-left font-semibold underline decoration-line-strong underline-offset-2"
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
  );
}
