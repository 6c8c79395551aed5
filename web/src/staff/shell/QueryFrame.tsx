import { useTranslation } from 'react-i18next';
import { type ApiError, apiError } from '../../shared/api/contractApi.ts';
import { Button } from '../../shared/ui/Button.tsx';
import { Notice } from '../../shared/ui/Notice.tsx';

interface Props {
  readonly query: { readonly error?: unknown; readonly isFetching: boolean; refetch(): unknown };
  /** Words for a refusal that the page can explain better. */
  readonly explain?: (error: ApiError) => string | null;
  /** Gray bars in the place of what is loaded, or something shaped like it. */
  readonly bars?: number;
  readonly skeleton?: React.ReactNode;
}

/** What stands in the place of something that is not there yet: its shape while it loads; when it failed, what happened. */
export function QueryFrame({ query, explain, bars = 4, skeleton }: Props) {
  const { t } = useTranslation();
  const refused = apiError(query.error);
  if (refused && !query.isFetching)
    return (
      <div className="p-4">
        <Notice tone="danger" live="assertive">
          <p>{explain?.(refused) ?? t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}</p>
          {/* No second try changes what a role may see. */}
          {refused.tag !== 'NotAllowed' && (
            <Button className="mt-2" onClick={() => query.refetch()}>
              {t('tryAgain')}
            </Button>
          )}
        </Notice>
      </div>
    );
  return (
    <div role="status" aria-label={t('loading')}>
      {skeleton ?? (
        <div className="flex flex-col gap-2 p-4">
          {Array.from({ length: bars }, (_, i) => `bar ${i}`).map((bar) => (
            <div key={bar} className="h-8 animate-pulse rounded-md bg-highlight" />
          ))}
        </div>
      )}
    </div>
  );
}
