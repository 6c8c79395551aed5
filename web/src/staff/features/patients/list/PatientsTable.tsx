import type { ListedPatient, ListSort } from '@zaguan/contracts/patients';
import { type ColumnDef, flexRender, getCoreRowModel, useReactTable } from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import type { TFunction } from 'i18next';
import { Link } from 'react-router';
import { formatBirthDate, shortDate } from '../../../../shared/time/format.ts';
import { useAppSelector } from '../../../store.ts';
import { useClinicTime } from '../../accounts/index.ts';
import type { Query } from './listQuery.ts';

interface Props {
  readonly patients: readonly ListedPatient[];
  readonly query: Query;
  /** A search stands there: it ranks them until a column is pressed. */
  readonly isTyped: boolean;
  readonly onSort: (sort: ListSort, descending: boolean) => void;
}

/** Which order a column's head asks for; the others can't be sorted by. */
const SORT_OF: Readonly<Record<string, ListSort>> = {
  name: 'name',
  birthDate: 'birthDate',
  lastVisit: 'recent',
  nextVisit: 'nextVisit',
};
/** The first press of these asks for the latest first. */
const LATEST_FIRST: ReadonlySet<string> = new Set(['recent', 'birthDate']);

export const COLUMNS = [
  'name',
  'birthDate',
  'phone',
  'recordNumber',
  'site',
  'language',
  'lastVisit',
  'nextVisit',
  'codes',
] as const;

function columnsOf(t: TFunction, today: string): ColumnDef<ListedPatient>[] {
  const text = (id: string, value: (row: ListedPatient) => string): ColumnDef<ListedPatient> => ({
    id,
    header: t(`patients.column.${id as 'name'}`),
    accessorFn: value,
  });
  return [
    { ...text('name', ({ name }) => name), cell: ({ row }) => <Name patient={row.original} /> },
    text('birthDate', (row) => t('patients.born', { date: formatBirthDate(row.birthDate), count: row.age })),
    text('phone', (row) => row.phoneEnd ?? ''),
    text('recordNumber', (row) => row.recordNumber),
    text('site', (row) => row.homeSiteName ?? row.siteName ?? ''),
    text('language', (row) => t(`patient.${row.language}`)),
    text('lastVisit', (row) => (row.lastVisit ? shortDate(row.lastVisit, 'en', today) : '')),
    {
      ...text('nextVisit', (row) => row.nextVisit?.date ?? ''),
      cell: ({ row }) => <NextVisit patient={row.original} />,
    },
    text('codes', (row) => row.codes.join(', ')),
  ];
}

/** The table itself; a press on a head sorts. */
export function PatientsTable({ patients, query, isTyped, onSort }: Props) {
  const { t } = useTranslation();
  const { today } = useClinicTime();
  const columns = useMemo(() => columnsOf(t, today), [t, today]);
  const data = useMemo(() => [...patients], [patients]);
  const hidden = useAppSelector((state) => state.prefs.hiddenColumns);
  const columnVisibility = useMemo(() => Object.fromEntries(hidden.map((id) => [id, false])), [hidden]);
  const table = useReactTable({
    data,
    columns,
    state: { columnVisibility },
    getCoreRowModel: getCoreRowModel(),
    getRowId: ({ id }) => id,
  });
  // Without a search, whoever was here last is first.
  const sort: ListSort = query.sort === 'fit' && !isTyped ? 'recent' : query.sort;
  const descending = query.sort === 'fit' && !isTyped ? true : query.descending;
  return (
    <table className="w-full text-left">
      <thead className="sticky top-0 bg-surface-deep">
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id}>
            {group.headers.map(({ id, column }) => {
              const by = SORT_OF[id];
              const isBy = by !== undefined && by === sort;
              const title = String(column.columnDef.header);
              return (
                <th
                  key={id}
                  scope="col"
                  className="px-3 py-1.5 whitespace-nowrap first:pl-4"
                  aria-sort={isBy ? (descending ? 'descending' : 'ascending') : undefined}
                >
                  {by ? (
                    <button
                      type="button"
                      className="inline-flex min-h-7 items-center gap-1 font-semibold hover:underline"
                      onClick={() => onSort(by, isBy ? !descending : LATEST_FIRST.has(by))}
                    >
                      {title}
                      {isBy && (descending ? <ArrowDown size={14} /> : <ArrowUp size={14} />)}
                    </button>
                  ) : (
                    title
                  )}
                </th>
              );
            })}
          </tr>
        ))}
      </thead>
      <tbody>
        {table.getRowModel().rows.map((row) => (
          <tr key={row.id} data-patient={row.id} className="border-b border-line hover:bg-highlight">
            {row.getVisibleCells().map((cell) => (
              <td key={cell.id} className="px-3 py-1.5 align-top first:pl-4">
                {flexRender(cell.column.columnDef.cell, cell.getContext())}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Name({ patient }: { patient: ListedPatient }) {
  const { t } = useTranslation();
  const also = [
    patient.preferredName && `“${patient.preferredName}”`,
    ...patient.formerNames.map((name) => t('finder.former', { name })),
  ].filter(Boolean);
  const marks = [
    patient.status !== 'active' && t(`patient.status.${patient.status}`),
    patient.restricted && t('patient.restricted'),
  ].filter(Boolean);
  return (
    <>
      <Link className="font-semibold underline" to={`/patients/${patient.id}`}>
        {patient.name}
      </Link>
      {also.length > 0 && <span className="text-muted"> {also.join(', ')}</span>}
      {marks.map((mark) => (
        <span key={String(mark)} className="ml-1.5 rounded-sm bg-warning-subtle px-1 text-sm font-bold text-warning">
          {mark}
        </span>
      ))}
    </>
  );
}

function NextVisit({ patient: { nextVisit } }: { patient: ListedPatient }) {
  const { today } = useClinicTime();
  if (!nextVisit) return null;
  return (
    <Link className="underline" to={`/daybook/${nextVisit.date}?visit=${nextVisit.id}`}>
      {shortDate(nextVisit.date, 'en', today)}
    </Link>
  );
}
