import { flexRender, type Table } from '@tanstack/react-table';
import { useTranslation } from 'react-i18next';
import { Tick } from './Tick.tsx';

interface Props<Row> {
  readonly table: Table<Row>;
  readonly openId: string | null;
  readonly imported: readonly string[];
  readonly onOpen: (id: string) => void;
}

/** Heads that sort, and a line for each record; what has just been imported is marked. */
export function RecordRows<Row>({ table, openId, imported, onOpen }: Props<Row>) {
  const { t } = useTranslation();
  const rows = table.getRowModel().rows;
  const look = (id: string) =>
    id === openId ? 'bg-accent-subtle' : imported.includes(id) ? 'bg-warning-subtle' : 'hover:bg-surface-deep';
  return (
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
            data-imported={imported.includes(row.id) || undefined}
            className={`border-b border-line ${look(row.id)}`}
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
  );
}
