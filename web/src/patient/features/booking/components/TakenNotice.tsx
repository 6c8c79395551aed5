import { useTranslation } from 'react-i18next';
import type { ApiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, shortDate, timeOf } from '../../../../shared/time/format.ts';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useLanguage } from '../hooks/useLanguage.ts';

/** A lost race: what happened, and the nearest other times to take with one tap. */
export function TakenNotice({
  error,
  timeZone,
  onTake,
}: {
  error: ApiError;
  timeZone: string;
  onTake: (start: string, providerId: string | null) => void;
}) {
  const { t } = useTranslation();
  const language = useLanguage();
  return (
    <Notice tone="danger" live="assertive">
      <p>{t(`error.${error.tag}`, { requestId: error.requestId })}</p>
      {error.nearest && error.nearest.length > 0 && (
        <>
          <p className="mt-2 font-bold">{t('when.others')}</p>
          <ul className="mt-1 flex flex-wrap gap-2">
            {error.nearest.map((other) => (
              <li key={other.start}>
                <button
                  type="button"
                  data-other={other.start}
                  className="min-h-11 rounded-md border border-accent bg-panel px-3 font-bold text-accent"
                  onClick={() => onTake(other.start, other.providerId)}
                >
                  {shortDate(dateAt(other.start, timeZone), language)}, {timeOf(other.start, timeZone, language)}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Notice>
  );
}
