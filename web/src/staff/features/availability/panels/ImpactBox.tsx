import type { ScheduleWeek, WireImpact } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { dateAt, shortDate, timeOf, wallTime } from '../../../../shared/time/format.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useNames } from '../hooks/useNames.ts';
import type { usePreview } from '../hooks/useEdits.ts';

type Answer = ReturnType<typeof usePreview>;
/** Rows that are read at a glance; the rest is a number. */
const MOST_ROWS = 6;

/** What the acts would do, before they are done. */
export function ImpactBox({ week, preview }: { week: ScheduleWeek; preview: Answer }) {
  const { t } = useTranslation();
  const name = useNames(week);
  const { data, error, asking } = preview;
  const words = (told: { code: string; facts: Record<string, string | number> }, of: 'fault' | 'warning') => {
    const { facts } = told;
    const zone = week.sites.find(({ id }) => id === facts.siteId)?.timeZone ?? 'UTC';
    const clock = (minute: unknown) =>
      typeof minute === 'number' ? timeOf(new Date(minute * 60_000).toISOString(), zone) : '';
    return t(`schedule.${of}.${told.code}`, {
      ...facts,
      site: name(String(facts.siteId ?? '')),
      name: name(String(facts.resourceId ?? '')),
      date: facts.date ? shortDate(String(facts.date)) : '',
      startDate: facts.startDate ? shortDate(String(facts.startDate)) : '',
      endDate: facts.endDate ? shortDate(String(facts.endDate)) : '',
      from: clock(facts.start),
      until: clock(facts.end),
      time: typeof facts.minute === 'number' ? wallTime(facts.minute) : '',
      becomes: typeof facts.becomes === 'number' ? wallTime(facts.becomes) : '',
    });
  };
  return (
    <section aria-label={t('schedule.impact')} aria-live="polite" aria-busy={asking} className="flex flex-col gap-2">
      <h3 className="font-bold">{t('schedule.impact')}</h3>
      {asking && <div className="h-10 animate-pulse rounded-md bg-band" />}
      {error && <Notice tone="brick">{t(`error.${error.tag}`, { requestId: error.requestId })}</Notice>}
      {data?.faults.map((fault) => (
        <Notice key={`${fault.code}${fault.edit}${fault.facts.date}`} tone="brick">
          {words(fault, 'fault')}
        </Notice>
      ))}
      {data?.warnings.map((warning) => (
        <p key={`${warning.code}${warning.edit}${warning.facts.date}`} className="text-ochre">
          {words(warning, 'warning')}
        </p>
      ))}
      {data?.impact && <Effects impact={data.impact} week={week} />}
      {data && !data.impact && !data.faults.length && <p className="text-muted">{t('schedule.noChange')}</p>}
    </section>
  );
}

function Effects({ impact, week }: { impact: WireImpact; week: ScheduleWeek }) {
  const { t } = useTranslation();
  const name = useNames(week);
  const rows = [...impact.types].sort(
    (a, b) => b.online.gained + b.online.lost + b.desk.lost - (a.online.gained + a.online.lost + a.desk.lost),
  );
  const signed = ({ gained, lost }: { gained: number; lost: number }) =>
    [gained ? `+${gained}` : '', lost ? `−${lost}` : ''].filter(Boolean).join(' ') || '0';
  return (
    <>
      {!rows.length && <p className="text-muted">{t('schedule.sameTimes')}</p>}
      {rows.length > 0 && (
        <table className="w-full text-[0.9rem]">
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
            {rows.slice(0, MOST_ROWS).map((row) => (
              <tr key={row.visitTypeId + row.siteId} className="border-t border-line align-top">
                <td className="py-0.5">
                  {name(row.visitTypeId)}, {name(row.siteId)}
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
      {rows.length > MOST_ROWS && (
        <p className="text-muted">{t('schedule.moreTypes', { count: rows.length - MOST_ROWS })}</p>
      )}
      {impact.stranded.length > 0 && (
        <div className="rounded-md border border-ochre bg-ochre-wash px-3 py-2">
          <p className="font-bold">{t('schedule.stranded', { count: impact.stranded.length })}</p>
          <ul className="mt-1 max-h-[150px] overflow-y-auto">
            {impact.stranded.map((visit) => {
              const zone = week.sites.find(({ id }) => id === visit.siteId)?.timeZone ?? 'UTC';
              return (
                <li key={visit.appointmentId}>
                  {shortDate(dateAt(visit.start, zone))}, {timeOf(visit.start, zone)} {visit.patientName}:{' '}
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
      {impact.mended > 0 && <p>{t('schedule.mended', { count: impact.mended })}</p>}
      <p className="text-[0.85rem] text-muted">
        {t('schedule.lookedAt', { count: impact.days, until: shortDate(impact.until) })}
      </p>
    </>
  );
}
