import type { RegisterDoc } from '@zaguan/contracts/recalls';
import type { SetupRecord } from '@zaguan/contracts/setup';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Page } from '../../../shell/Page.tsx';
import { useAddress } from '../../../shell/useAddress.ts';
import { NEW_DOC, RecordPanel, setupApi, useArchive } from '../../setup/index.ts';
import { RegisterEditor } from '../editor/RegisterEditor.tsx';
import { RegisterPeople } from '../RegisterPeople.tsx';

/** Lists of patients with something in common, and who is on them. */
export function RegistersPage() {
  const { t } = useTranslation();
  const query = setupApi.useRecordsQuery('register');
  const { asked, set } = useAddress();
  const all = (query.data?.records ?? []) as readonly SetupRecord<RegisterDoc>[];
  const records = all.filter(({ active }) => active);
  const mayEdit = query.data?.mayEdit ?? false;
  const editId = asked.get('edit');
  const edited = editId === 'new' ? null : records.find(({ id }) => id === editId);
  const shown = records.find(({ id }) => id === asked.get('register'));
  const last = Math.max(0, ...records.map(({ doc }) => doc.sortOrder));
  return (
    <div className="flex min-h-0 min-w-0 flex-1">
      <Page
        title={t('recalls.register.title')}
        note={
          <>
            <span className="text-muted">{t('recalls.register.note')}</span>
            <Link className="underline" to="/outreach">
              {t('recalls.list.back')}
            </Link>
          </>
        }
        query={{ ...query, currentData: query.data }}
        toolbar={
          mayEdit && (
            <div className="border-b border-line px-4 py-2">
              <Button look="primary" onClick={() => set({ edit: 'new' }, true)}>
                {t('recalls.register.new')}
              </Button>
            </div>
          )
        }
      >
        {() => (
          <div className="grid max-w-6xl grid-cols-[24rem_1fr] gap-6 max-md:grid-cols-1">
            {all.length === 0 ? (
              <p className="text-muted">{t('recalls.register.none')}</p>
            ) : (
              <Rows all={all} shownId={shown?.id ?? null} mayEdit={mayEdit} set={set} />
            )}
            {shown ? (
              <RegisterPeople key={shown.id} id={shown.id} doc={shown.doc} mayEdit={mayEdit} />
            ) : (
              <p className="text-muted">{records.length > 0 && t('recalls.register.choose')}</p>
            )}
          </div>
        )}
      </Page>
      {editId !== null && edited !== undefined && query.data && (
        <RecordPanel
          key={editId}
          kind="register"
          title={edited?.doc.name ?? t('recalls.register.new')}
          record={edited}
          blank={{ ...NEW_DOC.register(), sortOrder: last + 1 }}
          mayEdit={mayEdit}
          field={asked.get('field')}
          wide
          onClose={() => set({ edit: null }, true)}
          onSaved={(id) => set({ register: id })}
        >
          <RegisterEditor />
        </RecordPanel>
      )}
    </div>
  );
}

interface RowsProps {
  readonly all: readonly SetupRecord<RegisterDoc>[];
  readonly shownId: string | null;
  readonly mayEdit: boolean;
  readonly set: ReturnType<typeof useAddress>['set'];
}

/** The registers, archived ones at the end. */
function Rows({ all, shownId, mayEdit, set }: RowsProps) {
  const { t } = useTranslation();
  const archive = useArchive('register');
  const records = all.filter(({ active }) => active);
  const archived = all.filter(({ active }) => !active);
  return (
    <ul className="flex flex-col gap-1" aria-label={t('recalls.register.title')}>
      {records.map(({ id, doc }) => (
        <li key={id} className="flex items-center gap-2">
          <Button
            className="flex-1 flex-col items-start! gap-0! text-left"
            aria-pressed={shownId === id}
            look={shownId === id ? 'primary' : 'quiet'}
            onClick={() => set({ register: id }, true)}
          >
            <b className="block">{doc.name}</b>
            <span className="block font-normal">{t(`recalls.register.${doc.rule ? 'byRule' : 'byHand'}`)}</span>
          </Button>
          {mayEdit && (
            <>
              <Button aria-label={`${t('recalls.register.edit')}: ${doc.name}`} onClick={() => set({ edit: id }, true)}>
                {t('recalls.register.edit')}
              </Button>
              <Button
                aria-label={`${t('recalls.register.archive')}: ${doc.name}`}
                onClick={() => void archive(id, false)}
              >
                {t('recalls.register.archive')}
              </Button>
            </>
          )}
        </li>
      ))}
      {archived.map(({ id, doc }) => (
        <li key={id} className="flex items-center gap-2 px-3 text-muted">
          <span className="flex-1">
            {doc.name} · {t('recalls.archived')}
          </span>
          {mayEdit && (
            <Button aria-label={`${t('recalls.restore')}: ${doc.name}`} onClick={() => void archive(id, true)}>
              {t('recalls.restore')}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}
