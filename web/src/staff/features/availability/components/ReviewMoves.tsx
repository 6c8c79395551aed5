import type { VisitToMove } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { availabilityApi } from '../availability.api.ts';
import { asTimes } from '../hooks/useMoveVisits.ts';
import { useVisitWords } from '../hooks/useVisitWords.ts';
import { timeFrom } from './otherTime.ts';

const LINK = /\{link\}/g;

/** Before several are moved at once: each with its new time, and the very words its patient will be sent. */
export function ReviewMoves({
  visits,
  timeOf,
  busy,
  onMove,
  onLeave,
}: {
  visits: readonly VisitToMove[];
  timeOf: (visit: VisitToMove) => string;
  busy: boolean;
  onMove: () => void;
  onLeave: () => void;
}) {
  const { t } = useTranslation();
  const words = useVisitWords();
  const { currentData, error, isFetching } = availabilityApi.useMessagesOfMovesQuery(
    { times: asTimes(visits, timeOf) },
    { refetchOnMountOrArgChange: true },
  );
  const refused = apiError(error);
  const messages = new Map(currentData?.messages.map((each) => [each.appointmentId, each]));
  const count = (channel: 'sms' | 'email' | null) =>
    currentData?.messages.filter((each) => each.channel === channel).length ?? 0;
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">{t('schedule.review')}</h2>
      {refused && <Notice tone="danger">{t(`error.${refused.tag}`, { requestId: refused.requestId })}</Notice>}
      {isFetching && !currentData && <div className="h-16 animate-pulse rounded-md bg-highlight" />}
      {currentData && (
        <p role="status">
          {(['sms', 'email', null] as const)
            .filter((channel) => count(channel) > 0)
            .map((channel) => t(`schedule.goesOut.${channel ?? 'call'}`, { count: count(channel) }))
            .join(' · ')}
        </p>
      )}
      <ul className="flex flex-col">
        {visits.map((visit) => {
          const message = messages.get(visit.appointmentId);
          return (
            <li key={visit.appointmentId} data-review={visit.appointmentId} className="border-t border-line py-2">
              <p className="font-bold">{visit.patientName || t('schedule.nobodyKnown')}</p>
              <p>
                {words.when(visit)} → <strong>{words.time(timeFrom(timeOf(visit)), visit)}</strong>
              </p>
              {message && (
                <p className="text-muted">
                  {message.channel ? `“${message.text.replace(LINK, t('schedule.ownLink'))}”` : t('schedule.mustCall')}
                </p>
              )}
            </li>
          );
        })}
      </ul>
      <div className="sticky -bottom-3 -mx-4 -mb-3 flex flex-wrap gap-2 border-t border-line bg-surface px-4 py-3">
        <Button look="primary" disabled={busy || !currentData} onClick={onMove}>
          {t('schedule.moveNow', { count: visits.length })}
        </Button>
        <Button onClick={onLeave}>{t('dontMove')}</Button>
      </div>
    </div>
  );
}
