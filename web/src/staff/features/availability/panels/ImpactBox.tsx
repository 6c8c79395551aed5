import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { shortDate, timeOf, wallTime } from '../../../../shared/time/format.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { Effects } from '../../impact/index.ts';
import { useNames } from '../hooks/useNames.ts';
import type { usePreview } from '../hooks/useEdits.ts';

type Answer = ReturnType<typeof usePreview>;

/** What the edits would do, before they are done. */
export function ImpactBox({ week, preview }: { week: ScheduleWeek; preview: Answer }) {
  const { t } = useTranslation();
  const name = useNames(week);
  const { data, error, asking } = preview;
  const words = (told: { code: string; facts: Record<string, string | number> }, of: 'fault' | 'warning') => {
    const { facts } = told;
    const zone = week.sites.find(({ id }) => id === facts.siteId)?.timeZone ?? 'UTC';
    const clock = (minute: unknown) =>
      typeof minute === 'number' ? timeOf(new Date(minute * 60_000).toISOString(), zone) : '';
    return codeWords(t, `schedule.${of}`, told.code, {
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
      {asking && <div className="h-10 animate-pulse rounded-md bg-highlight" />}
      {error && <Notice tone="danger">{t(`error.${error.tag}`, { requestId: error.requestId })}</Notice>}
      {data?.faults.map((fault) => (
        <Notice key={`${fault.code}${fault.edit}${fault.facts.date}`} tone="danger">
          {words(fault, 'fault')}
        </Notice>
      ))}
      {data?.warnings.map((warning) => (
        <p key={`${warning.code}${warning.edit}${warning.facts.date}`} className="text-warning">
          {words(warning, 'warning')}
        </p>
      ))}
      {data?.impact && <Effects impact={data.impact} />}
      {data && !data.impact && !data.faults.length && <p className="text-muted">{t('schedule.noChange')}</p>}
    </section>
  );
}
