import type { VisitToMove } from '@zaguan/contracts/availability';
import { createColumnHelper, flexRender, getCoreRowModel, useReactTable } from '@tanstack/react-table';
import { useTranslation } from 'react-i18next';
import { NONE } from './otherTime.ts';
import { PatientWasTold } from './PatientWasTold.tsx';
import { MoveOrKeep, OtherTimeChoice, VisitCell, WhyCell } from './VisitToMoveCells.tsx';

interface Props {
  readonly visits: readonly VisitToMove[];
  readonly timeOf: (visit: VisitToMove) => string;
  readonly busy: boolean;
  /** Ids of the visits whose boxes are ticked. */
  readonly chosen: readonly string[];
  readonly onChoose: (ids: readonly string[]) => void;
  readonly onTime: (id: string, time: string) => void;
  readonly onMove: (visit: VisitToMove) => void;
}

const column = createColumnHelper<VisitToMove>();
const COLUMNS = [
  column.display({ id: 'box' }),
  column.display({ id: 'visit' }),
  column.display({ id: 'why' }),
  column.display({ id: 'told' }),
  column.display({ id: 'instead' }),
  column.display({ id: 'act' }),
];
const WIDTHS: Record<string, string> = { why: 'max-w-[190px]', instead: 'w-[290px]' };

/** The list: boxes for several at once, one's own first under a heading of their own. */
export function VisitsToMoveTable({ visits, timeOf, busy, chosen, onChoose, onTime, onMove }: Props) {
  const { t } = useTranslation();
  const selection = Object.fromEntries(chosen.map((id) => [id, true]));
  const table = useReactTable({
    data: visits as VisitToMove[],
    columns: COLUMNS,
    getRowId: ({ appointmentId }) => appointmentId,
    // Without a time there is nothing to move it to.
    enableRowSelection: (row) => timeOf(row.original) !== NONE,
    state: { rowSelection: selection },
    onRowSelectionChange: (change) => onChoose(Object.keys(typeof change === 'function' ? change(selection) : change)),
    getCoreRowModel: getCoreRowModel(),
  });
  const cell = (id: string, visit: VisitToMove) => {
    if (id === 'visit') return <VisitCell visit={visit} />;
    if (id === 'why') return <WhyCell visit={visit} />;
    if (id === 'told') return <PatientWasTold visit={visit} />;
    if (id === 'instead')
      return (
        <OtherTimeChoice visit={visit} value={timeOf(visit)} onChoose={(time) => onTime(visit.appointmentId, time)} />
      );
    return <MoveOrKeep visit={visit} value={timeOf(visit)} busy={busy} onMove={() => onMove(visit)} />;
  };
  const rows = table.getRowModel().rows;
  const mine = rows.filter((row) => row.original.mine).length;
  return (
    <table className="w-full border-collapse text-left">
      <thead>
        <tr className="border-b border-line-strong text-muted">
          {table.getFlatHeaders().map((header) => (
            <th key={header.id} scope="col" className="px-2 py-1.5 font-semibold">
              {header.id === 'box' ? (
                <input
                  type="checkbox"
                  aria-label={t('schedule.markAll')}
                  className="size-5 accent-accent"
                  checked={table.getIsAllRowsSelected()}
                  onChange={table.getToggleAllRowsSelectedHandler()}
                />
              ) : (
                flexRender(t(`schedule.column.${header.id as 'visit'}`), header.getContext())
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => {
          const heading = mine > 0 && mine < rows.length && (i === 0 ? 'mine' : i === mine ? 'others' : null);
          return [
            heading && (
              <tr key={heading}>
                <th scope="rowgroup" colSpan={COLUMNS.length} className="bg-surface-deep px-2 py-1 font-bold">
                  {t(`schedule.${heading}`, { count: heading === 'mine' ? mine : rows.length - mine })}
                </th>
              </tr>
            ),
            <tr key={row.id} className="border-b border-line align-top" data-visit={row.id}>
              {row.getVisibleCells().map((each) => (
                <td key={each.id} className={`px-2 py-2 ${WIDTHS[each.column.id] ?? ''}`}>
                  {each.column.id === 'box' ? (
                    <input
                      type="checkbox"
                      aria-label={t('schedule.markVisit', {
                        name: row.original.patientName || t('schedule.nobodyKnown'),
                      })}
                      className="mt-1 size-5 accent-accent"
                      checked={row.getIsSelected()}
                      disabled={!row.getCanSelect()}
                      onChange={row.getToggleSelectedHandler()}
                    />
                  ) : (
                    cell(each.column.id, row.original)
                  )}
                </td>
              ))}
            </tr>,
          ];
        })}
      </tbody>
    </table>
  );
}
