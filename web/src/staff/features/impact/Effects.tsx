import type { WireImpact } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { dateAt, shortDate, timeOf } from '../../../shared/time/format.ts';
import { accountsApi } from '../accounts/index.ts';
import { signed } from './signed.ts';

/** Rows that are read at a glance; the rest is a number. */
const MAX_ROWS = 6;

/** What a change does to start times and to what is booked, before it is saved. */
export function Effects({ impact }: { impact: WireImpact }) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const name = (id: string) =>
    [...(clinic?.visitTypes ?? []), ...(clinic?.sites ?? [])].find((row) => row.id === id)?.name ?? '';
  const rows = [...impact.types].sort(
    (a, b) => b.online.gained + b.online.lost + b.desk.lost - (a.online.gained + a.online.lost + a.desk.lost),
  );
  return (
    <>
      {impact.visitsToMove.length > 0 && (
        <div className="rounded-md border border-warning bg-warning-subtle px-3 py-2">
          <p className="font-bold">{t('schedule.visitsToMove', { count: impact.visitsToMove.length })}</p>
          <ul className="mt-1 max-h-[150px] overflow-y-auto">
            {impact.visitsToMove.map((visit) => {
              const zone = clinic?.sites.find(({ id }) => id === visit.siteId)?.timeZone;
              return (
                <li key={visit.appointmentId}>
                  {zone && `${shortDate(dateAt(visit.start, zone))}, ${timeOf(visit.start, zone)}`} {visit.patientName}:{' '}
                  {visit.codes
                    .map((code) => t(`whyNot.code.${code}`))
                    .join(', ')
                    .toLowerCase()}
                </li>
              );
            })}
          </ul>
        </div>
      )}
      {impact.invitationsEmptied > 0 && (
        <p className="rounded-md border border-warning bg-warning-subtle px-3 py-2 font-bold">
          {t('invite.emptied', { count: impact.invitationsEmptied })}
        </p>
      )}
      {!rows.length && <p className="text-muted">{t('schedule.sameTimes')}</p>}
      {rows.length > 0 && (
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-muted">
              <th scope="col" className="font-normal">
                {t('schedule.startTimes')}
              </th>
              <th scope="col" className="text-right font-normal">
                {t('schedule.online')}
              </th>
              <th scope="col" className="pl-2 text-right font-normal">
                {t('schedule.atDesk')}
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, MAX_ROWS).map((row) => (
              <tr key={row.visitTypeId + row.siteId} className="border-t border-line align-top">
                <td className="py-0.5">
                  {name(row.visitTypeId)}, {name(row.siteId)}
                  {/* Some hours are for new patients only: what each kind sees is said where it differs. */}
                  {signed(row.onlineByKind.new) !== signed(row.onlineByKind.established) && (
                    <span className="block text-muted">
                      {t('schedule.kinds', {
                        new: signed(row.onlineByKind.new),
                        established: signed(row.onlineByKind.established),
                      })}
                    </span>
                  )}
                  {row.places && row.places.before !== row.places.after && (
                    <span className="block text-muted">{t('schedule.places', row.places)}</span>
                  )}
                </td>
                <td className="text-right tabular-nums">{signed(row.online)}</td>
                <td className="pl-2 text-right tabular-nums">{signed(row.desk)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {rows.length > MAX_ROWS && (
        <p className="text-muted">{t('schedule.moreTypes', { count: rows.length - MAX_ROWS })}</p>
      )}
      {impact.fittingAgain > 0 && <p>{t('schedule.fittingAgain', { count: impact.fittingAgain })}</p>}
      <p className="text-sm text-muted">
        {t('schedule.lookedAt', { count: impact.days, until: shortDate(impact.until) })}
      </p>
    </>
  );
}
