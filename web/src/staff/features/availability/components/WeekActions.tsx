import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { availabilityApi } from '../availability.api.ts';
import type { Panel } from '../panel.ts';
import { DraftChoice } from './Drafts.tsx';
import { Legend } from './Legend.tsx';

interface Props {
  readonly week: ScheduleWeek;
  readonly draftId: string | undefined;
  readonly onOpen: (panel: Panel) => void;
  readonly onDraft: (id: string | null) => void;
}

/** What can be done with the schedule, as far as one may. */
export function WeekActions({ week, draftId, onOpen, onDraft }: Props) {
  const { t } = useTranslation();
  const { data: asks } = availabilityApi.useTimeOffRequestsQuery({});
  const open = asks?.requests.filter(({ status }) => status === 'requested').length ?? 0;
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line bg-surface-deep px-3 py-1.5">
      {week.mayEdit !== 'none' && (
        <Button look="primary" onClick={() => onOpen({ kind: 'new', lane: null, day: null, span: null })}>
          {t('hours.add')}
        </Button>
      )}
      {week.mayEdit === 'all' && (
        <>
          <Button onClick={() => onOpen({ kind: 'away', resourceId: null, day: null })}>{t('schedule.timeOff')}</Button>
          <Button onClick={() => onOpen({ kind: 'copy', resourceId: null })}>{t('schedule.copyWeek')}</Button>
          <Button onClick={() => onOpen({ kind: 'close', siteId: null })}>{t('schedule.closeSite')}</Button>
        </>
      )}
      <Button onClick={() => onOpen({ kind: 'coming' })}>{t('schedule.upcoming')}</Button>
      {(week.mayEdit === 'all' || week.ownResourceId) && (
        <Button onClick={() => onOpen({ kind: 'requests' })}>
          {t(week.mayEdit === 'all' ? 'requests.title' : 'requests.own', { count: open })}
        </Button>
      )}
      {week.mayEdit === 'all' && <DraftChoice draftId={draftId ?? null} onChoose={onDraft} />}
      <Link
        to="/find"
        className="rounded-md border border-line-strong bg-panel px-3 py-1.5 font-semibold hover:bg-surface-deep"
      >
        {t('find.title')}
      </Link>
      {week.toMove > 0 && (
        <Link to="/availability/visits-to-move" className="font-bold text-warning underline">
          {t('schedule.toMoveCount', { count: week.toMove })}
        </Link>
      )}
      {week.mayEdit === 'none' && <span className="text-muted">{t('hours.noRight')}</span>}
      {week.mayEdit === 'own' && <span className="text-muted">{t('hours.ownOnly')}</span>}
      <Legend />
    </div>
  );
}
