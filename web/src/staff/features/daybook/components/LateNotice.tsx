import type { Plate, SiteDay } from '@zaguan/contracts/daybook';
import { latenessOf } from '@zaguan/core/daybook';
import { useTranslation } from 'react-i18next';
import { timeOf } from '../../../../shared/time/format.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { useNow } from '../hooks/useNow.ts';

const minuteOf = (instant: string) => Date.parse(instant) / 60_000;

/** That the provider runs late, and whether the patient knows; that the patient does, and what the clinic does then. */
export function LateNotice({ plate, site }: { plate: Plate; site: SiteDay }) {
  const { t } = useTranslation();
  const { data: clinic, fulfilledTimeStamp } = accountsApi.useClinicQuery({});
  const now = useNow(clinic?.now, fulfilledTimeStamp);
  const delay = site.delays.find(({ resourceId }) => resourceId === plate.providerId);
  const isWaiting = plate.kind === 'visit' && ['booked', 'arrived', 'checked-in'].includes(plate.status);
  if (!isWaiting) return null;
  const late =
    plate.status === 'booked' && now < plate.end
      ? latenessOf(minuteOf(plate.start), minuteOf(now), delay?.minutes ?? 0, clinic?.lateAfterMin ?? null)
      : null;
  const provider = site.lanes.find(({ resourceId }) => resourceId === plate.providerId)?.name ?? '';
  const startsAbout = new Date(Date.parse(plate.start) + (delay?.minutes ?? 0) * 60_000).toISOString();
  return (
    <>
      {delay && startsAbout > now && (
        <Notice tone="warning">
          {t('delay.ofVisit', {
            name: provider,
            minutes: delay.minutes,
            time: timeOf(startsAbout, site.timeZone),
          })}{' '}
          {delay.toCall.includes(plate.id) && <b data-not-told>{t('delay.notTold')}</b>}
        </Notice>
      )}
      {late?.isPastLimit && clinic && (
        <Notice tone="danger">
          <b data-past-limit>{t('delay.pastLimit', { minutes: late.minutes, limit: clinic.lateAfterMin ?? 0 })}</b>{' '}
          {clinic.lateRule}
        </Notice>
      )}
    </>
  );
}
