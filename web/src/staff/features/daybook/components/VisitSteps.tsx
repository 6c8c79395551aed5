import { useTranslation } from 'react-i18next';
import { dateAt, shortDate, timeOf } from '../../../../shared/time/format.ts';
import { daybookApi } from '../daybook.api.ts';

/** When a visit took each of its steps, on its site's clock; those of another day with their date. */
export function VisitSteps({ visitId, date, timeZone }: { visitId: string; date: string; timeZone: string }) {
  const { t } = useTranslation();
  const { currentData } = daybookApi.useVisitInShortQuery({ id: visitId as never });
  if (!currentData) return null;
  const { booked, confirmed, arrived, 'checked-in': checkedIn, fulfilled, noshow } = currentData.steps;
  const steps = { booked, confirmed, arrived, 'checked-in': checkedIn, fulfilled, noshow };
  const when = (instant: string) => {
    const day = dateAt(instant, timeZone);
    return [day !== date && shortDate(day), timeOf(instant, timeZone)].filter(Boolean).join(', ');
  };
  return (
    <ul data-steps className="flex flex-wrap gap-x-3 text-sm text-muted">
      {(Object.keys(steps) as (keyof typeof steps)[]).map((step) => {
        const at = steps[step];
        return (
          at && (
            <li key={step} data-step={step}>
              {step === 'confirmed' ? t('visit.confirmed') : t(`visit.status.${step}`)} {when(at)}
            </li>
          )
        );
      })}
    </ul>
  );
}
