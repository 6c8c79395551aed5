import { type ReactNode, useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { type ApiError, apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';

/** The heading of a set-up page, and what stands there while it loads or when it failed. */
export function SetupFrame({
  title,
  note,
  tools,
  query,
  children,
}: {
  title: string;
  note?: ReactNode;
  tools?: ReactNode;
  query: { readonly data?: unknown; readonly error?: unknown; readonly isFetching: boolean; refetch(): unknown };
  children: ReactNode;
}) {
  const { t } = useTranslation();
  useEffect(() => {
    document.title = title;
  }, [title]);
  const refused: ApiError | null = apiError(query.error);
  const loaded = query.data !== undefined;
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col" aria-busy={!loaded} data-setup-page>
      <header className="flex flex-wrap items-baseline gap-3 border-b border-line px-4 py-2">
        <h1 className="text-[1.3rem] font-bold">{title}</h1>
        {note && <span className="text-muted">{note}</span>}
        {tools && <span className="ml-auto">{tools}</span>}
      </header>
      {loaded && <div className="flex min-h-0 flex-1">{children}</div>}
      {!loaded && refused && !query.isFetching && (
        <div className="p-4">
          <Notice tone="danger" live="assertive">
            <p>{t(`error.${refused.tag}`, { requestId: refused.requestId })}</p>
            {refused.tag !== 'NotAllowed' && (
              <Button className="mt-2" onClick={() => query.refetch()}>
                {t('tryAgain')}
              </Button>
            )}
          </Notice>
        </div>
      )}
      {!loaded && !(refused && !query.isFetching) && (
        <div role="status" aria-label={t('loading')} className="flex flex-col gap-2 p-4">
          {[0, 1, 2, 3, 4].map((i) => (
            <div key={i} className="h-7 animate-pulse rounded-md bg-highlight" />
          ))}
        </div>
      )}
    </div>
  );
}
