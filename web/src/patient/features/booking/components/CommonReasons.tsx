import { useTranslation } from 'react-i18next';
import { isBundle } from '../../../../shared/reasons.ts';
import { useVisitType } from '../hooks/useVisitType.ts';

/** What people usually come for with this visit type: a press writes it into the reason, beside what stands there. */
export function CommonReasons({ onPick }: { onPick: (reason: string) => void }) {
  const { t } = useTranslation();
  const reasons = (useVisitType()?.reasons ?? []).filter((reason) => !isBundle(reason));
  if (reasons.length === 0) return null;
  return (
    <fieldset className="-mt-2 flex flex-wrap gap-2">
      <legend className="sr-only">{t('you.commonReasons')}</legend>
      {reasons.map((reason) => (
        <button
          key={reason}
          type="button"
          className="min-h-11 rounded-md border border-line-strong bg-panel px-3 text-left"
          onClick={() => onPick(reason)}
        >
          {reason}
        </button>
      ))}
    </fieldset>
  );
}
