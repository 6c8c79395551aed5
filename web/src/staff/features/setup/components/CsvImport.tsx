import { faultCode } from '@zaguan/contracts';
import type { SetupRecord } from '@zaguan/contracts/setup';
import { Dialog } from 'radix-ui';
import { useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { fieldWordsOr } from '../fieldWords.ts';
import { type ApiError, apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { FileButton } from '../../../../shared/ui/FileButton.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { RestOfRows } from '../../../../shared/ui/RestOfRows.tsx';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { useVirtualRows } from '../../../../shared/ui/useVirtualRows.ts';
import { useUndoToast } from '../../undo/index.ts';
import { type CsvRead, readCsv } from '../csv.ts';
import { type DocOf, NEW_DOC } from '../docs.ts';
import type { Refs } from '../hooks/useRefs.ts';
import { TABLES, type TableKind } from '../kinds.ts';
import { KINDS, setupApi } from '../setup.api.ts';

const MAX_BYTES = 1_000_000;
/** What a row without faults is high, in CSS pixels. */
const ROW_PX = 30;

/** A CSV file looked at row by row before anything is saved; then all of it is, or nothing. */
export function CsvImport<K extends TableKind>({
  kind,
  records,
  refs,
  onImported,
}: {
  kind: K;
  records: readonly SetupRecord<DocOf[K]>[];
  refs: Refs;
  /** With the ids of what was made or changed. */
  onImported: (ids: readonly string[]) => void;
}) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [read, setRead] = useState<CsvRead | { ok: false; code: 'csv-too-large' } | null>(null);
  const [save, { error, isLoading, reset }] = setupApi.useSaveRecordsMutation();
  const refused = apiError(error);
  const take = async (file: File) => {
    reset();
    if (file.size > MAX_BYTES) return setRead({ ok: false, code: 'csv-too-large' });
    setRead(await readRows(kind, file, records, refs));
  };
  const rows = read?.ok ? read.rows : [];
  const faulty = rows.filter(({ faults }) => faults.length);
  const apply = async () => {
    const result = await save({ kind, records: rows.map(({ id: row, version, doc }) => ({ id: row, version, doc })) });
    if (!('data' in result) || !result.data) return;
    undo(t('setup.savedMany', { count: rows.length }), result.data.undo.id);
    setRead(null);
    onImported(rows.map((row) => row.id));
  };
  return (
    <>
      <FileButton label={t('setup.import')} accept=".csv,text/csv" onFile={(file) => void take(file)} />
      <Dialog.Root open={read !== null} onOpenChange={(open) => !open && setRead(null)}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-[#00000055]" />
          <Dialog.Content
            aria-describedby={undefined}
            className="fixed top-1/2 left-1/2 z-50 flex max-h-[80vh] w-[720px] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 rounded-md border border-line-strong bg-surface p-4"
          >
            <Dialog.Title className="text-xl font-bold">{t('setup.importTitle')}</Dialog.Title>
            {read && !read.ok && (
              <Notice tone="danger" live="assertive">
                {t(`fault.${read.code}`)}
              </Notice>
            )}
            {read?.ok && (
              <>
                <p>
                  {t('setup.importCount', {
                    made: rows.filter((row) => row.isNew).length,
                    changed: rows.filter((row) => !row.isNew).length,
                  })}
                </p>
                {read.unknown.length > 0 && (
                  <Notice tone="warning">{t('setup.importUnknown', { columns: read.unknown.join(', ') })}</Notice>
                )}
                <Rows kind={kind} rows={rows} />
                {faulty.length > 0 && (
                  <Notice tone="danger">{t('setup.importFaults', { count: faulty.length })}</Notice>
                )}
                {refused && <Refusal refused={refused} />}
              </>
            )}
            <div className="flex gap-2">
              {read?.ok && (
                <Button look="primary" disabled={faulty.length > 0 || isLoading} onClick={() => void apply()}>
                  {t('setup.importAll')}
                </Button>
              )}
              <Dialog.Close asChild>
                <Button>{t('setup.giveUp')}</Button>
              </Dialog.Close>
            </div>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}

/** Every row of a file against what stands, and against what its kind may hold. */
async function readRows<K extends TableKind>(
  kind: K,
  file: File,
  records: readonly SetupRecord<DocOf[K]>[],
  refs: Refs,
): Promise<CsvRead> {
  const check = (doc: Record<string, unknown>) =>
    KINDS[kind].doc
      .safeParse(doc, { reportInput: true })
      .error?.issues.map((issue) => ({ field: issue.path.join('.'), code: faultCode(issue) })) ?? [];
  const blank = () => NEW_DOC[kind]() as unknown as Record<string, unknown>;
  return readCsv(await file.text(), TABLES[kind].csv, records, blank, refs, check);
}

type ReadRow = Extract<CsvRead, { ok: true }>['rows'][number];

function Rows({ kind, rows }: { kind: TableKind; rows: readonly ReadRow[] }) {
  const { t } = useTranslation();
  const scroller = useRef<HTMLElement>(null);
  const { indexes, before, after, measure } = useVirtualRows(rows.length, scroller, ROW_PX);
  return (
    <ScrollRegion ref={scroller} aria-label={t('setup.importTitle')} className="min-h-0 border border-line bg-panel">
      <table className="w-full text-left" aria-rowcount={rows.length}>
        <tbody>
          <RestOfRows height={before} columns={3} />
          {indexes.map((i) => (
            <ImportRow key={rows[i].line} kind={kind} row={rows[i]} place={i} measure={measure} />
          ))}
          <RestOfRows height={after} columns={3} />
        </tbody>
      </table>
    </ScrollRegion>
  );
}

function ImportRow({
  kind,
  row,
  place,
  measure,
}: {
  kind: TableKind;
  row: ReadRow;
  place: number;
  measure: (row: Element | null) => void;
}) {
  const { t } = useTranslation();
  return (
    <tr
      ref={measure}
      data-index={place}
      aria-rowindex={place + 1}
      data-line={row.line}
      className="border-b border-line align-top"
    >
      <td className="w-20 px-3 py-1 text-muted">{t('setup.line', { line: row.line })}</td>
      <td className="py-1 font-semibold">{row.name}</td>
      <td className="py-1 pr-3">
        {row.faults.length === 0 && t(row.isNew ? 'setup.importNew' : 'setup.importChange')}
        {row.faults.map(({ field, code, text }) => (
          <p key={field} className="text-danger">
            <b>{fieldWordsOr(t, kind, field.split('.')[0])}</b>
            {text && ` “${text.slice(0, 40)}”`}: {t(`fault.${code}`, { defaultValue: t('fault.other') })}
          </p>
        ))}
      </td>
    </tr>
  );
}

/** Why the server took none of them; where it was one row, which. */
function Refusal({ refused }: { refused: ApiError }) {
  const { t } = useTranslation();
  const [first] = refused.issues ?? [];
  return (
    <Notice tone="danger" live="assertive">
      {refused.tag === 'SetupRefused' && first
        ? t('setup.importRefused', {
            // The first line of the file is its heading.
            line: Number(/^records\.(\d+)/.exec(first.path)?.[1] ?? 0) + 2,
            why: t(`fault.${first.code}`, { ...refused.facts, defaultValue: t('fault.other') }),
          })
        : t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
    </Notice>
  );
}
