import type { UpcomingChange, ScheduleWeek, WireEdit } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { shortDate } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { availabilityApi } from '../availability.api.ts';
import { useNames } from '../hooks/useNames.ts';
import { useSaveEdits } from '../hooks/useEdits.ts';
import { formatMinutesOrAllDay } from './hoursForm.ts';

const DAYS = 120;

/** The edit that takes a change back, if one does. */
function backOf(change: UpcomingChange): WireEdit | null {
  const { id, version, date } = change;
  switch (change.what) {
    case 'date-change':
    case 'orphan':
      return { do: 'drop-date-change', changeId: id };
    case 'time-off':
      return { do: 'drop-time-off', id };
    case 'kept-free':
      return { do: 'drop-kept-free', id, from: date };
    case 'closure':
      return { do: 'drop-closure', id };
    case 'hours-begin':
      return { do: 'end-hours', hoursId: id, version, reach: { of: 'all' } };
    case 'hours-end':
      return { do: 'change-hours', hoursId: id, version, reach: { of: 'all' }, to: { effectiveUntil: null } };
    case 'brush':
      return change.resourceId && change.siteId && change.fromMinute !== null && change.toMinute !== null
        ? {
            do: 'brush',
            siteId: change.siteId,
            strokes: [
              { resourceId: change.resourceId, date, fromMinute: change.fromMinute, toMinute: change.toMinute },
            ],
            value: 'by-rule',
          }
        : null;
  }
}

/** Everything that will not be as every week, by date; each can be taken back. */
export function UpcomingPanel({
  week,
  mayEdit,
  onClose,
}: {
  week: ScheduleWeek;
  mayEdit: (resourceId: string) => boolean;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const name = useNames(week);
  const { data, error, isLoading } = availabilityApi.useUpcomingQuery({ from: week.today, days: DAYS });
  const { save, saving, error: refused } = useSaveEdits();
  const failed = refused ?? apiError(error);
  return (
    <div className="flex flex-col gap-2">
      <h2 className="text-xl font-bold">{t('schedule.upcoming')}</h2>
      <p className="text-muted">{t('schedule.comingHint', { count: DAYS })}</p>
      {failed && (
        <Notice tone="danger" live="assertive">
          {t(`error.${failed.tag}`, { requestId: failed.requestId })}
        </Notice>
      )}
      {isLoading && <div className="h-20 animate-pulse rounded-md bg-highlight" />}
      {data?.changes.length === 0 && <p>{t('schedule.noneComing')}</p>}
      <ul>
        {data?.changes.map((change) => {
          const back = backOf(change);
          const may = change.resourceId ? mayEdit(change.resourceId) : week.mayEdit === 'all';
          return (
            <li key={`${change.what}${change.id}`} className="border-t border-line py-1.5">
              <div className="flex items-start justify-between gap-2">
                <span>
                  <span className="font-semibold">
                    {shortDate(change.date)}
                    {change.until && change.until !== change.date && ` – ${shortDate(change.until)}`}
                  </span>
                  <span className="block">
                    {[change.name ?? name(change.siteId), t(`schedule.what.${change.what}`)].join(': ')}
                  </span>
                  <span className="block text-muted">
                    {[
                      change.fromMinute !== null && change.toMinute !== null
                        ? formatMinutesOrAllDay(
                            { fromMinute: change.fromMinute, toMinute: change.toMinute },
                            t('schedule.allDay'),
                          )
                        : '',
                      change.name ? name(change.siteId) : '',
                      change.coveredBy ? t('schedule.coveredByName', { name: change.coveredBy }) : '',
                      change.what === 'brush' ? codeWords(t, 'schedule.brush', change.note) : change.note,
                    ]
                      .filter(Boolean)
                      .join(' · ')}
                  </span>
                </span>
                {back && may && (
                  <Button
                    look="plain"
                    className="shrink-0"
                    disabled={saving}
                    aria-label={`${t('schedule.takeBack')}: ${change.name ?? name(change.siteId)}, ${shortDate(change.date)}`}
                    onClick={() => void save([back], t('schedule.done.takenBack'), { agreed: true })}
                  >
                    {t('schedule.takeBack')}
                  </Button>
                )}
              </div>
            </li>
          );
        })}
      </ul>
      <Button className="self-start" onClick={onClose}>
        {t('close')}
      </Button>
    </div>
  );
}
