import type { SetupRecord } from '@zaguan/contracts/setup';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { BatchEdit } from '../components/BatchEdit.tsx';
import { CsvImport } from '../components/CsvImport.tsx';
import { RecordPanel } from '../components/RecordPanel.tsx';
import { RecordTable } from '../components/RecordTable.tsx';
import { download } from '../../../../shared/csv.ts';
import { toCsv } from '../csv.ts';
import { type DocOf, NEW_DOC } from '../docs.ts';
import { InviteButton } from '../editors/InviteButton.tsx';
import { AccountEditor, FieldEditor, PayerEditor } from '../editors/OtherEditors.tsx';
import { PersonEditor } from '../editors/PersonEditor.tsx';
import { PlaceEditor, PoolEditor } from '../editors/PlaceEditor.tsx';
import { SiteEditor } from '../editors/SiteEditor.tsx';
import { VisitTypeEditor } from '../editors/VisitTypeEditor.tsx';
import { type Refs, useRefs } from '../hooks/useRefs.ts';
import { TABLES, type TableKind } from '../kinds.ts';
import { setupApi } from '../setup.api.ts';
import { SetupFrame } from './SetupFrame.tsx';

function Editor({ kind, id, field }: { kind: TableKind; id: string | null; field: string | null }) {
  switch (kind) {
    case 'site':
      return <SiteEditor id={id} />;
    case 'person':
      return <PersonEditor id={id} />;
    case 'place':
      return <PlaceEditor id={id} />;
    case 'pool':
      return <PoolEditor id={id} />;
    case 'visit-type':
      return <VisitTypeEditor id={id} field={field} />;
    case 'payer':
      return <PayerEditor id={id} />;
    case 'field':
      return <FieldEditor id={id} />;
    case 'account':
      return <AccountEditor id={id} />;
  }
}

/** A new record begins where the last one stands: rooms come in rows. */
function blankFor<K extends TableKind>(kind: K, refs: Refs, records: readonly SetupRecord<DocOf[K]>[]): DocOf[K] {
  const doc = NEW_DOC[kind]() as DocOf[K];
  const highest = Math.max(0, ...records.map((record) => (record.doc as { sortOrder?: number }).sortOrder ?? 0));
  const more: Record<string, unknown> = { ...('sortOrder' in doc && { sortOrder: highest + 1 }) };
  if (kind === 'place' || kind === 'pool') more.siteId = refs.sites[0]?.value ?? '';
  return { ...doc, ...more };
}

/** All records of a kind, and the one that is open beside them. Which one stands in the address, so that links lead there. */
export function RecordPage<K extends TableKind>({ kind }: { kind: K }) {
  const { t } = useTranslation();
  const refs = useRefs();
  const [params, setParams] = useSearchParams();
  const query = setupApi.useRecordsQuery(kind);
  const records = (query.data?.records ?? []) as readonly SetupRecord<DocOf[K]>[];
  const mayEdit = query.data?.mayEdit ?? false;
  const [imported, setImported] = useState<readonly string[]>([]);
  // Once the list has them: it is fetched again after they were saved.
  const shownImported = useMemo(
    () => imported.filter((id) => query.data?.records.some((record) => record.id === id)),
    [imported, query.data],
  );
  const openId = params.get('open');
  const open = openId === 'new' ? null : records.find(({ id }) => id === openId);
  const show = (id: string | null) => setParams(id ? { open: id } : {});
  const title = t(`setup.place.${kind}`);
  const wide = TABLES[kind].wide ?? false;
  const nameOf = (record: SetupRecord<DocOf[K]>) => {
    const doc = record.doc as { name?: string; labelEn?: string };
    return doc.name ?? doc.labelEn ?? '';
  };
  return (
    <SetupFrame
      title={title}
      query={query}
      note={mayEdit ? undefined : t('setup.lookOnly')}
      tools={
        mayEdit && (
          <Button look="primary" onClick={() => show('new')}>
            {t(`setup.new.${kind}`)}
          </Button>
        )
      }
    >
      <RecordTable
        kind={kind}
        records={records}
        refs={refs}
        openId={openId}
        imported={shownImported}
        narrow={openId !== null && wide}
        onOpen={show}
        tools={
          <>
            <Button
              onClick={() =>
                download(
                  `${kind}s.csv`,
                  toCsv(
                    TABLES[kind].csv,
                    records.filter(({ active }) => active),
                    refs,
                  ),
                )
              }
            >
              {t('setup.export')}
            </Button>
            {mayEdit && kind !== 'account' && (
              <CsvImport kind={kind} records={records} refs={refs} onImported={setImported} />
            )}
          </>
        }
        chosen={(ids, clear) =>
          mayEdit && <BatchEdit kind={kind} ids={ids} records={records} refs={refs} clear={clear} />
        }
      />
      {openId !== null && open !== undefined && (
        <RecordPanel
          key={openId}
          kind={kind}
          title={open ? nameOf(open) : t(`setup.new.${kind}`)}
          record={open}
          blank={blankFor(kind, refs, records)}
          mayEdit={mayEdit}
          field={params.get('field')}
          wide={wide}
          onClose={() => show(null)}
          onSaved={(id) => kind === 'account' && openId === 'new' && show(id)}
          actions={kind === 'account' && open && <InviteButton id={open.id} />}
        >
          <Editor kind={kind} id={open?.id ?? null} field={params.get('field')} />
        </RecordPanel>
      )}
    </SetupFrame>
  );
}
