import type { SetupKind } from '@zaguan/contracts/setup';
import { useWatch } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Effects } from '../../impact/index.ts';
import { useImpactPreview } from '../hooks/useImpactPreview.ts';

/** Kinds whose change can do something to what is offered or booked. */
const WEIGHED: readonly SetupKind[] = ['site', 'person', 'place', 'pool', 'visit-type'];

/** What saving the form would do, under it; nothing where it would do nothing. */
export function RecordImpact({ kind, id, version }: { kind: SetupKind; id: string; version: number }) {
  return version > 0 && WEIGHED.includes(kind) ? <Weighed kind={kind} id={id} version={version} /> : null;
}

function Weighed({ kind, id, version }: { kind: SetupKind; id: string; version: number }) {
  const { t } = useTranslation();
  const doc = useWatch();
  const { impact, asking } = useImpactPreview(kind, id, version, doc);
  if (!impact && !asking) return null;
  return (
    <section
      aria-label={t('schedule.impact')}
      aria-live="polite"
      aria-busy={asking}
      className="flex max-h-[240px] flex-col gap-2 overflow-y-auto border-t border-line px-4 py-2"
    >
      <h3 className="font-bold">{t('schedule.impact')}</h3>
      {asking && <div className="h-8 shrink-0 animate-pulse rounded-md bg-highlight" />}
      {!asking && impact && <Effects impact={impact} />}
    </section>
  );
}
