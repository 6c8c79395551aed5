import type { OutputOf } from '@zaguan/contracts';
import type { RecallPlanDoc, recallCounts } from '@zaguan/contracts/recalls';
import type { SetupRecord } from '@zaguan/contracts/setup';
import { Fragment } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Page } from '../../../shell/Page.tsx';
import { useAddress } from '../../../shell/useAddress.ts';
import { NEW_DOC, RecordPanel, setupApi, useArchive, useNameOf } from '../../setup/index.ts';
import { PlanEditor } from '../editor/PlanEditor.tsx';
import { recallsApi } from '../recalls.api.ts';
import { sayPlan, STATES_SHOWN } from '../say.ts';

type PlanRecord = SetupRecord<RecallPlanDoc>;
type Counted = OutputOf<typeof recallCounts>['plans'][number];

/** Recall plans, with how many people are what to each; a plan is edited beside them. */
export function OutreachPage() {
  const { t } = useTranslation();
  const query = setupApi.useRecordsQuery('recall-plan');
  const { data: counts } = recallsApi.useRecallCountsQuery({});
  const { asked, set } = useAddress();
  const records = (query.data?.records ?? []) as readonly PlanRecord[];
  const mayEdit = query.data?.mayEdit ?? false;
  const openId = asked.get('plan');
  const open = openId === 'new' ? null : records.find(({ id }) => id === openId);
  const show = (plan: string | null) => set({ plan }, true);
  const last = Math.max(0, ...records.map(({ doc }) => doc.sortOrder));
  return (
    <div className="flex min-h-0 min-w-0 flex-1">
      <Page
        title={t('recalls.title')}
        note={<span className="text-muted">{t('recalls.note')}</span>}
        query={{ ...query, currentData: query.data }}
        toolbar={
          <div className="flex gap-2 border-b border-line px-4 py-2">
            {mayEdit && (
              <Button look="primary" onClick={() => show('new')}>
                {t('recalls.newPlan')}
              </Button>
            )}
            <Link
              to="/outreach/registers"
              className="rounded-md border border-line-strong bg-panel px-3 py-1.5 font-semibold hover:bg-surface-deep"
            >
              {t('recalls.registers')}
            </Link>
            <Link
              to="/outreach/templates"
              className="rounded-md border border-line-strong bg-panel px-3 py-1.5 font-semibold hover:bg-surface-deep"
            >
              {t('invite.templates')}
            </Link>
          </div>
        }
      >
        {() =>
          records.length === 0 ? (
            <p className="max-w-xl text-muted">{t('recalls.none')}</p>
          ) : (
            <ul className="flex max-w-5xl flex-col gap-2" aria-label={t('recalls.plans')}>
              {records.map((record) => (
                <PlanRow
                  key={record.id}
                  record={record}
                  counted={counts?.plans.find(({ id }) => id === record.id)}
                  mayEdit={mayEdit}
                  onEdit={() => show(record.id)}
                />
              ))}
            </ul>
          )
        }
      </Page>
      {openId !== null && open !== undefined && query.data && (
        <RecordPanel
          key={openId}
          kind="recall-plan"
          title={open?.doc.name ?? t('recalls.newPlan')}
          record={open}
          blank={{ ...NEW_DOC['recall-plan'](), sortOrder: last + 1 }}
          mayEdit={mayEdit}
          field={asked.get('field')}
          wide
          onClose={() => show(null)}
        >
          <PlanEditor id={open?.id ?? null} />
        </RecordPanel>
      )}
    </div>
  );
}

interface RowProps {
  readonly record: PlanRecord;
  readonly counted: Counted | undefined;
  readonly mayEdit: boolean;
  readonly onEdit: () => void;
}

function PlanRow({ record: { id, active, doc }, counted, mayEdit, onEdit }: RowProps) {
  const { t } = useTranslation();
  const nameOf = useNameOf();
  const archive = useArchive('recall-plan');
  const isListed = active && doc.isOn;
  return (
    <li
      data-plan={id}
      className={`flex flex-wrap items-center gap-x-4 gap-y-1 rounded-md border border-line-strong px-4 py-2 ${isListed ? 'bg-panel' : 'bg-surface-deep'}`}
    >
      <span className="min-w-64 flex-1">
        <b>
          {isListed ? (
            <Link className="underline" to={`/outreach/plans/${id}`}>
              {doc.name}
            </Link>
          ) : (
            doc.name
          )}
        </b>
        <span className="block text-muted">{sayPlan(t, doc, nameOf)}</span>
        {isListed ? <Counts id={id} counted={counted} /> : <Off isArchived={!active} />}
      </span>
      {mayEdit && (
        <span className="flex gap-2">
          {active && <Button onClick={onEdit}>{t('recalls.edit')}</Button>}
          <Button onClick={() => void archive(id, !active)}>{t(active ? 'recalls.archive' : 'recalls.restore')}</Button>
        </span>
      )}
    </li>
  );
}

function Off({ isArchived }: { isArchived: boolean }) {
  const { t } = useTranslation();
  return (
    <span className="block">
      <b>{t(isArchived ? 'recalls.archived' : 'recalls.off')}</b>
      {!isArchived && <span className="text-muted"> · {t('recalls.offNote')}</span>}
    </span>
  );
}

/** Each number opens its people. */
function Counts({ id, counted }: { id: string; counted: Counted | undefined }) {
  const { t } = useTranslation();
  if (!counted) return <span className="block h-6 w-64 animate-pulse rounded-md bg-highlight" />;
  return (
    <span className="flex flex-wrap gap-x-4">
      {STATES_SHOWN.filter((state) => state === 'due' || counted.counts[state]).map((state) => (
        <Fragment key={state}>
          <Link className="underline" data-count={state} to={`/outreach/plans/${id}?state=${state}`}>
            {state === 'due' ? <b>{counted.counts.due ?? 0}</b> : counted.counts[state]} {t(`recalls.state.${state}`)}
          </Link>
          {state === 'due' && counted.overdue > 0 && (
            <Link
              className="font-bold text-warning underline"
              data-count="overdue"
              to={`/outreach/plans/${id}?state=due&overdue=yes`}
            >
              {t('recalls.overdue', { count: counted.overdue })}
            </Link>
          )}
        </Fragment>
      ))}
      {counted.toLookAt > 0 && (
        <span className="text-muted" role="status">
          {t('recalls.toLookAt', { count: counted.toLookAt })}
        </span>
      )}
    </span>
  );
}
