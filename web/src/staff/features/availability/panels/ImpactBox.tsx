import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { isConflict } from './Conflicts.tsx';
import { Effects } from '../../impact/index.ts';
import { useNoticeWords } from '../hooks/useNoticeWords.ts';
import type { usePreview } from '../hooks/useEdits.ts';

type Answer = ReturnType<typeof usePreview>;
interface Preview extends Omit<Answer, 'data'> {
  readonly data: Omit<NonNullable<Answer['data']>, 'replaceable'> | null;
}

/** What the edits would do, before they are done. Conflicts with other hours are left to `Conflicts` where that stands below. */
export function ImpactBox({
  week,
  preview,
  conflictsBelow = false,
}: {
  week: ScheduleWeek;
  preview: Preview;
  conflictsBelow?: boolean;
}) {
  const { t } = useTranslation();
  const words = useNoticeWords(week);
  const { data, error, asking } = preview;
  const faults = (data?.faults ?? []).filter((fault) => !conflictsBelow || !isConflict(fault));
  return (
    <section aria-label={t('schedule.impact')} aria-live="polite" aria-busy={asking} className="flex flex-col gap-2">
      <h3 className="font-bold">{t('schedule.impact')}</h3>
      {asking && <div className="h-10 animate-pulse rounded-md bg-highlight" />}
      {error && <Notice tone="danger">{t(`error.${error.tag}`, { requestId: error.requestId })}</Notice>}
      {faults.map((fault) => (
        <Notice key={`${fault.code}${fault.edit}${fault.facts.date}${fault.facts.sourceId}`} tone="danger">
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
