import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { type ApiError, apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';

interface Query<T> {
  /** Of the present question: the last answer to another one must not stand under this one's heading. */
  readonly currentData?: T;
  readonly error?: unknown;
  readonly isFetching: boolean;
  refetch(): unknown;
}

/** Loading (in the shape of what comes), failed (what happened, try again) and loaded, for every query of a page. */
export function Loaded<T>({
  query,
  rows = 3,
  gone,
  children,
}: {
  query: Query<T>;
  rows?: number;
  /** A refusal that no second try will change. */
  gone?: string;
  children: (data: T) => ReactNode;
}) {
  const { t } = useTranslation();
  if (query.currentData !== undefined) return children(query.currentData);
  const error: ApiError | null = apiError(query.error);
  if (error && !query.isFetching) {
    return (
      <Notice tone="danger" live="assertive">
        <p>
          {t('failed')} {t(`error.${error.tag}`, { requestId: error.requestId })}
        </p>
        {error.tag !== gone && (
          <Button className="mt-2 min-h-11" onClick={() => query.refetch()}>
            {t('tryAgain')}
          </Button>
        )}
      </Notice>
    );
  }
  return (
    <div role="status" aria-label={t('loading')} className="flex flex-col gap-3">
      {Array.from({ length: rows }, (_, i) => `row ${i}`).map((key) => (
        <div key={key} className="h-14 animate-pulse rounded-md bg-highlight" />
      ))}
    </div>
  );
}
