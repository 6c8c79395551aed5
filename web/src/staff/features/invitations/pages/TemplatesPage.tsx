import type { InvitationTemplateDoc } from '@zaguan/contracts/invitations';
import type { SetupRecord } from '@zaguan/contracts/setup';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Page } from '../../../shell/Page.tsx';
import { useAddress } from '../../../shell/useAddress.ts';
import { NEW_DOC, RecordPanel, setupApi, useArchive, useNameOf } from '../../setup/index.ts';
import { Finds } from '../editor/Finds.tsx';
import { TemplateEditor } from '../editor/TemplateEditor.tsx';

type TemplateRecord = SetupRecord<InvitationTemplateDoc>;

/** Templates of invitations, each with what it would find now; one is edited beside them. */
export function TemplatesPage() {
  const { t } = useTranslation();
  const query = setupApi.useRecordsQuery('invitation-template');
  const { asked, set } = useAddress();
  const records = (query.data?.records ?? []) as readonly TemplateRecord[];
  const mayEdit = query.data?.mayEdit ?? false;
  const openId = asked.get('template');
  const open = openId === 'new' ? null : records.find(({ id }) => id === openId);
  const show = (template: string | null) => set({ template }, true);
  const last = Math.max(0, ...records.map(({ doc }) => doc.sortOrder));
  return (
    <div className="flex min-h-0 min-w-0 flex-1">
      <Page
        title={t('invite.templates')}
        note={
          <Link className="underline" to="/outreach">
            {t('recalls.title')}
          </Link>
        }
        query={{ ...query, currentData: query.data }}
        toolbar={
          mayEdit ? (
            <div className="border-b border-line px-4 py-2">
              <Button look="primary" onClick={() => show('new')}>
                {t('invite.newTemplate')}
              </Button>
            </div>
          ) : undefined
        }
      >
        {() =>
          records.length === 0 ? (
            <p className="max-w-xl text-muted">{t('invite.noTemplates')}</p>
          ) : (
            <ul className="flex max-w-5xl flex-col gap-2" aria-label={t('invite.templates')}>
              {records.map((record) => (
                <Row key={record.id} record={record} mayEdit={mayEdit} onEdit={() => show(record.id)} />
              ))}
            </ul>
          )
        }
      </Page>
      {openId !== null && open !== undefined && query.data && (
        <RecordPanel
          key={openId}
          kind="invitation-template"
          title={open?.doc.name ?? t('invite.newTemplate')}
          record={open}
          blank={{ ...NEW_DOC['invitation-template'](), sortOrder: last + 1 }}
          mayEdit={mayEdit}
          field={asked.get('field')}
          wide
          onClose={() => show(null)}
        >
          <TemplateEditor />
        </RecordPanel>
      )}
    </div>
  );
}

function Row({ record, mayEdit, onEdit }: { record: TemplateRecord; mayEdit: boolean; onEdit: () => void }) {
  const { t } = useTranslation();
  const nameOf = useNameOf();
  const archive = useArchive('invitation-template');
  const { id, active, doc } = record;
  return (
    <li
      data-template={id}
      className={`flex flex-wrap items-center gap-x-4 gap-y-1 rounded-md border border-line-strong px-4 py-2 ${active ? 'bg-panel' : 'bg-surface-deep'}`}
    >
      <span className="min-w-64 flex-1">
        <b className="block">{doc.name}</b>
        <span className="block text-muted">
          {doc.typeIds.map(nameOf).filter(Boolean).join(', ')}
          {doc.siteIds && ` · ${doc.siteIds.map(nameOf).filter(Boolean).join(', ')}`}
          {` · ${t('invite.lives', { count: doc.livesDays })}`}
          {doc.deskTimesToo && ` · ${t('invite.deskTimesShort')}`}
        </span>
        {active ? <Finds rules={doc} /> : <b>{t('recalls.archived')}</b>}
      </span>
      {mayEdit && (
        <span className="flex gap-2">
          {active && <Button onClick={onEdit}>{t('invite.editTemplate')}</Button>}
          <Button onClick={() => void archive(id, !active)}>
            {t(active ? 'invite.archiveTemplate' : 'recalls.restore')}
          </Button>
        </span>
      )}
    </li>
  );
}
