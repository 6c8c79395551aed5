import type { ListedPerson } from '@zaguan/contracts/recalls';
import { type ColumnDef, flexRender, getCoreRowModel, useReactTable } from '@tanstack/react-table';
import type { TFunction } from 'i18next';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useNameOf } from '../setup/index.ts';
import { Link } from 'react-router';
import { sayListed } from './say.ts';

interface Props {
  readonly people: readonly ListedPerson[];
  readonly today: string;
  /** Who is open beside. */
  readonly why: string | null;
  readonly onWhy: (patientId: string) => void;
  /** Who is ticked to be invited; `null`: nobody can be. */
  readonly ticked: ReadonlySet<string> | null;
  readonly onTick: (patientIds: readonly string[], on: boolean) => void;
}

/** People of a plan, each with why they stand here; a press opens all the rules. */
export function PeopleTable({ people, today, why, onWhy, ticked, onTick }: Props) {
  const { t } = useTranslation();
  const nameOf = useNameOf();
  const columns = useMemo(
    (): ColumnDef<ListedPerson>[] => [
      ...(ticked ? [tickColumn(t, people, ticked, onTick)] : []),
      {
        id: 'who',
        header: t('recalls.list.who'),
        cell: ({ row: { original: person } }) => (
          <Link className="font-bold underline" to={`/patients/${person.patientId}`}>
            {person.name}
          </Link>
        ),
      },
      {
        id: 'why',
        header: t('recalls.list.why'),
        cell: ({ row: { original: person } }) => (
          <button type="button" className="min-h-7 text-left hover:underline" onClick={() => onWhy(person.patientId)}>
            {person.overdue && (
              <b className="mr-2 rounded-sm bg-warning-subtle px-1.5 text-warning">{t('recalls.overdueNow')}</b>
            )}
            {sayListed(t, person, today, nameOf)}
          </button>
        ),
      },
      { id: 'site', header: t('recalls.list.site'), accessorFn: ({ homeSiteId }) => nameOf(homeSiteId) },
      {
        id: 'language',
        header: t('recalls.list.language'),
        accessorFn: ({ language }) => t(`recalls.list.${language}`),
      },
    ],
    [t, today, nameOf, onWhy, people, ticked, onTick],
  );
  const data = useMemo(() => [...people], [people]);
  const table = useReactTable({
    data,
    columns,
    getCoreRowModel: getCoreRowModel(),
    getRowId: ({ patientId }) => patientId,
  });
  return (
    <table className="w-full text-left">
      <thead className="sticky top-0 bg-surface-deep">
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id}>
            {group.headers.map(({ id, column, getContext }) => (
              <th key={id} scope="col" className="px-3 py-1.5 whitespace-nowrap">
                {flexRender(column.columnDef.header, getContext())}
              </th>
            ))}
          </tr>
        ))}
      </thead>
      <tbody>
        {table.getRowModel().rows.map((row) => (
          <tr
            key={row.id}
            data-listed={row.id}
            className={`border-b border-line ${row.id === why ? 'bg-accent-subtle' : ''}`}
          >
            {row.getVisibleCells().map((cell) => (
              <td key={cell.id} className="px-3 py-1 align-top">
                {flexRender(cell.column.columnDef.cell, cell.getContext())}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Boxes before the names, and one above them for all. */
function tickColumn(
  t: TFunction,
  people: readonly ListedPerson[],
  ticked: ReadonlySet<string>,
  onTick: Props['onTick'],
): ColumnDef<ListedPerson> {
  const all = people.map(({ patientId }) => patientId);
  const box = (label: string, checked: boolean, ids: readonly string[]) => (
    <input
      type="checkbox"
      aria-label={label}
      className="size-4 accent-accent"
      checked={checked}
      onChange={(event) => onTick(ids, event.target.checked)}
    />
  );
  return {
    id: 'tick',
    header: () => box(t('invite.tickAll'), all.length > 0 && all.every((id) => ticked.has(id)), all),
    cell: ({ row: { original: person } }) =>
      box(t('invite.tick', { name: person.name }), ticked.has(person.patientId), [person.patientId]),
  };
}
