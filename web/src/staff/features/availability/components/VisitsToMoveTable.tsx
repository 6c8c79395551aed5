import type { VisitToMove } from '@zaguan/contracts/availability';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  type Row,
  type Table,
  useReactTable,
} from '@tanstack/react-table';
import { Fragment, type ReactNode, type RefObject } from 'react';
import { useTranslation } from 'react-i18next';
import { RestOfRows } from '../../../../shared/ui/RestOfRows.tsx';
import { useVirtualRows } from '../../../../shared/ui/useVirtualRows.ts';
import { NONE } from './otherTime.ts';
import { PatientWasTold } from './PatientWasTold.tsx';
import { MoveOrKeep, OtherTimeChoice, VisitCell, WhyCell } from './VisitToMoveCells.tsx';

/** What a row of three lines is high, in CSS pixels. */
const ROW_PX = 74;

interface Props {
  readonly visits: readonly VisitToMove[];
  /** What the table scrolls in. */
  readonly scroller: RefObject<HTMLElement | null>;
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
export function VisitsToMoveTable(props: Props) {
  const { visits, scroller, timeOf, chosen, onChoose } = props;
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
  const rows = table.getRowModel().rows;
  const mine = rows.filter((row) => row.original.mine).length;
  const { indexes, before, after, measure } = useVirtualRows(rows.length, scroller, ROW_PX);
  return (
    <table className="w-full border-collapse text-left" aria-rowcount={rows.length + 1}>
      <Heads table={table} />
      <tbody>
        <RestOfRows height={before} columns={COLUMNS.length} />
        {indexes.map((i) => (
          <Fragment key={rows[i].id}>
            {mine > 0 && mine < rows.length && (i === 0 || i === mine) && (
              <Group mine={mine} all={rows.length} at={i} />
            )}
            <VisitRow {...props} row={rows[i]} place={i} measure={measure} />
          </Fragment>
        ))}
        <RestOfRows height={after} columns={COLUMNS.length} />
      </tbody>
    </table>
  );
}

function Heads({ table }: { table: Table<VisitToMove> }) {
  const { t } = useTranslation();
  return (
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
  );
}

/** The heading of one's own visits, or of the others' after them. */
function Group({ mine, all, at }: { mine: number; all: number; at: number }) {
  const { t } = useTranslation();
  return (
    <tr>
      <th scope="rowgroup" colSpan={COLUMNS.length} className="bg-surface-deep px-2 py-1 font-bold">
        {at === 0 ? t('schedule.mine', { count: mine }) : t('schedule.others', { count: all - mine })}
      </th>
    </tr>
  );
}

interface RowProps extends Props {
  readonly row: Row<VisitToMove>;
  readonly place: number;
  readonly measure: (row: Element | null) => void;
}

function VisitRow({ row, place, measure, timeOf, busy, onTime, onMove }: RowProps) {
  const visit = row.original;
  const cells: Record<string, ReactNode> = {
    box: <MarkBox row={row} />,
    visit: <VisitCell visit={visit} />,
    why: <WhyCell visit={visit} />,
    told: <PatientWasTold visit={visit} />,
    instead: (
      <OtherTimeChoice visit={visit} value={timeOf(visit)} onChoose={(time) => onTime(visit.appointmentId, time)} />
    ),
    act: <MoveOrKeep visit={visit} value={timeOf(visit)} busy={busy} onMove={() => onMove(visit)} />,
  };
  return (
    <tr
      ref={measure}
      data-index={place}
      // The heads are the first.
      aria-rowindex={place + 2}
      className="border-b border-line align-top"
      data-visit={row.id}
    >
      {row.getVisibleCells().map(({ id, column: { id: name } }) => (
        <td key={id} className={`px-2 py-2 ${WIDTHS[name] ?? ''}`}>
          {cells[name]}
        </td>
      ))}
    </tr>
  );
}

function MarkBox({ row }: { row: Row<VisitToMove> }) {
  const { t } = useTranslation();
  return (
    <input
      type="checkbox"
      aria-label={t('schedule.markVisit', { name: row.original.patientName || t('schedule.nobodyKnown') })}
      className="mt-1 size-5 accent-accent"
      checked={row.getIsSelected()}
      disabled={!row.getCanSelect()}
      onChange={row.getToggleSelectedHandler()}
    />
  );
}
