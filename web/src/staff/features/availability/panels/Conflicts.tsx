import type { ScheduleWeek } from '@zaguan/contracts/availability';
import { useTranslation } from 'react-i18next';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { TickField } from '../../../../shared/ui/inputs.tsx';
import type { EditNotice } from '../hooks/useNoticeWords.ts';
import { useNoticeWords } from '../hooks/useNoticeWords.ts';

/** A fault about other hours that stand in the way; those are named by `sourceId`. */
export const isConflict = ({ facts }: EditNotice): boolean => facts.sourceId !== undefined;

/** All hours that are in the way, and one box that lets them give way. Once ticked, the same list says what is replaced. */
export function Conflicts({
  week,
  found,
  canReplace,
  replacing,
  onReplace,
}: {
  week: ScheduleWeek;
  found: readonly EditNotice[];
  /** Whether all of it can give way. */
  canReplace: boolean;
  replacing: boolean;
  onReplace: (wanted: boolean) => void;
}) {
  const { t } = useTranslation();
  const words = useNoticeWords(week);
  if (!found.length) return null;
  return (
    <section
      aria-label={t('schedule.conflicts', { count: found.length })}
      aria-live="polite"
      className={`w-full rounded-md border px-3 py-2 ${replacing ? 'border-warning bg-warning-subtle' : 'border-danger bg-danger-subtle'}`}
    >
      <h3 className="font-bold">
        {t(replacing ? 'schedule.replaced' : 'schedule.conflicts', { count: found.length })}
      </h3>
      <ScrollRegion aria-label={t('schedule.inTheWay')} className="my-1 max-h-[104px]">
        <ul className="list-disc pl-5 leading-snug">
          {found.map((fault) => (
            <li key={`${fault.facts.resourceId}${fault.facts.sourceId}`}>{words(fault, 'fault')}</li>
          ))}
        </ul>
      </ScrollRegion>
      {canReplace || replacing ? (
        <>
          <TickField checked={replacing} onChange={(event) => onReplace(event.target.checked)}>
            {t('schedule.replaceThem')}
          </TickField>
          <p className="text-sm leading-snug text-muted">{t('schedule.replaceHint')}</p>
        </>
      ) : (
        <p>{t('schedule.cannotReplace')}</p>
      )}
    </section>
  );
}
