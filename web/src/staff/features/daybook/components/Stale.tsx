import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import type { BoardPart } from '../hooks/useBoardParts.ts';

/** Where news of a site could not be fetched: what is drawn may be older than it looks. */
export function Stale({ parts }: { parts: readonly BoardPart[] }) {
  const { t } = useTranslation();
  const stale = parts.find(({ section, query }) => section !== null && query?.error);
  const refused = apiError(stale?.query?.error);
  if (!stale || !refused) return null;
  return (
    <p role="alert" data-stale className="flex gap-3 border-b border-line bg-danger-subtle px-4 py-1.5">
      <b>{t('daybook.stale', { site: stale.title })}</b>
      {t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}
      <button
        type="button"
        className="font-semibold whitespace-nowrap text-accent underline"
        onClick={() => void stale.query?.refetch()}
      >
        {t('tryAgain')}
      </button>
    </p>
  );
}
