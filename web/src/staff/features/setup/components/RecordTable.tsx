import type { SetupRecord } from '@zaguan/contracts/setup';
import { type ReactNode, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { TickField } from '../../../../shared/ui/inputs.tsx';
import { ColumnChoice } from '../../../shell/ColumnChoice.tsx';
import type { DocOf } from '../docs.ts';
import { fieldWordsOr } from '../fieldWords.ts';
import { useRecordTable } from '../hooks/useRecordTable.ts';
import type { Refs } from '../hooks/useRefs.ts';
import type { TableKind } from '../kinds.ts';
import { RecordRows } from './RecordRows.tsx';

interface Props<K extends TableKind> {
  readonly kind: K;
  readonly records: readonly SetupRecord<DocOf[K]>[];
  readonly refs: Refs;
  readonly openId: string | null;
  /** What has just come out of a file. */
  readonly imported: readonly string[];
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
  imported,
  narrow,
  onOpen,
  tools,
  chosen,
}: Props<K>) {
  const { t } = useTranslation();
  const { table, data, search, setSearch, archived, setArchived, selection, setSelection } = useRecordTable(
    kind,
    records,
    refs,
    { narrow, imported },
  );
  const scroller = useRef<HTMLElement>(null);
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
          <ColumnChoice
            columns={table.getAllLeafColumns().map((column) => ({
              id: column.id,
              words: fieldWordsOr(t, kind, column.id),
              isShown: column.getIsVisible(),
            }))}
            onToggle={(id) => table.getColumn(id)?.toggleVisibility()}
          />
        )}
        <TickField
          checked={archived}
          onChange={(event) => {
            setArchived(event.target.checked);
            setSelection({});
          }}
        >
          {t('setup.archived')}
        </TickField>
        {!narrow && <span className="ml-auto flex gap-2">{tools}</span>}
      </div>
      {ids.length > 0 && (
        <div className="flex flex-wrap items-center gap-2 border-b border-line bg-surface-deep px-4 py-2">
          <span className="font-semibold">{t('setup.chosen', { count: ids.length })}</span>
          {chosen(ids, () => setSelection({}))}
        </div>
      )}
      <ScrollRegion ref={scroller} sideways className="min-h-0 flex-1" aria-label={t(`setup.place.${kind}`)}>
        <RecordRows table={table} scroller={scroller} openId={openId} imported={imported} onOpen={onOpen} />
        {!rows.length && (
          <p className="px-4 py-6 text-muted">
            {t(search ? 'setup.noneFound' : archived ? 'setup.noneArchived' : `setup.none.${kind}`)}
          </p>
        )}
      </ScrollRegion>
    </div>
  );
}
