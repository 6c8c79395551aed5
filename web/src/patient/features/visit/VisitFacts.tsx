import type { VisitDetails } from '@zaguan/contracts/patientVisit';
import { useTranslation } from 'react-i18next';
import { dateAt, formatDate, formatZone, timeOf } from '../../../shared/time/format.ts';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { useLanguage } from '../booking/index.ts';

/** When, what, with whom and where; how to get ready; and how it stands. */
export function VisitFacts({ visit }: { visit: VisitDetails }) {
  const { t } = useTranslation();
  const language = useLanguage();
  return (
    <>
      <div className="rounded-md border border-accent bg-panel px-4 py-4">
        <p className="text-lg font-bold">
          {formatDate(dateAt(visit.start, visit.timeZone), language)},{' '}
          <span className="whitespace-nowrap">{timeOf(visit.start, visit.timeZone, language)}</span>
        </p>
        <p className="text-muted">{formatZone(visit.timeZone, language)}</p>
        <p className="mt-2">
          {visit.visitType}
          {visit.provider && `, ${visit.provider}`}
        </p>
        <p>
          {visit.site}
          <br />
          {visit.address}
        </p>
        <p className="text-muted">{visit.directions}</p>
        {visit.preparation && (
          <p className="mt-2 whitespace-pre-line">
            <b>{t('done.prepare')}</b> {visit.preparation}
          </p>
        )}
      </div>
      <div aria-live="polite" className="empty:hidden">
        {visit.status === 'cancelled' && <Notice tone="warning">{t('visit.isCancelled')}</Notice>}
        {visit.status === 'over' && <Notice tone="warning">{t('visit.isOver')}</Notice>}
        {visit.status === 'here' && <Notice tone="success">{t('visit.isHere')}</Notice>}
        {visit.status === 'booked' && visit.waiting && <Notice tone="warning">{t('done.waiting')}</Notice>}
        {visit.status === 'booked' && visit.confirmed && <Notice tone="success">{t('visit.isConfirmed')}</Notice>}
      </div>
    </>
  );
}
