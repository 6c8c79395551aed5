import { type ReactNode, useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { type ApiError, apiError } from '../../shared/api/contractApi.ts';
import { Button } from '../../shared/ui/Button.tsx';
import { Notice } from '../../shared/ui/Notice.tsx';

interface Query<T> {
  readonly currentData?: T;
  readonly error?: unknown;
  readonly isFetching: boolean;
  refetch(): unknown;
}

interface Props<T> {
  readonly title: string;
  readonly query: Query<T>;
  /** What the browser's tab and history show, where the title is somebody's name. */
  readonly tabTitle?: string;
  /** Beside the title. */
  readonly note?: ReactNode;
  /** Below the title, above what scrolls. */
  readonly toolbar?: ReactNode;
  /** Words for a refusal that this page can explain better. */
  readonly explain?: (error: ApiError) => string | null;
  readonly children: (data: T) => ReactNode;
}

/** A page of the staff application: its title, then loading, failed (what happened, try again) or its content, which scrolls. */
export function Page<T>({ title, tabTitle = title, query, note, toolbar, explain, children }: Props<T>) {
  const { t } = useTranslation();
  useEffect(() => {
    document.title = tabTitle;
  }, [tabTitle]);
  const { currentData: data, error, isFetching } = query;
  const refused = apiError(error);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-baseline gap-3 border-b border-line px-4 py-2">
        <h1 className="text-[1.3rem] font-bold">{title}</h1>
        {note}
      </header>
      {toolbar}
      <section
        className="min-h-0 flex-1 overflow-auto p-4"
        aria-label={title}
        aria-busy={data === undefined}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls must be reachable by keyboard (WCAG 2.1.1)
        tabIndex={0}
      >
        {data !== undefined && children(data)}
        {data === undefined && refused && !isFetching && (
          <Notice tone="danger" live="assertive">
            <p>{explain?.(refused) ?? t(`error.${refused.tag}`, { requestId: refused.requestId })}</p>
            {/* No second try changes what a role may see. */}
            {refused.tag !== 'NotAllowed' && (
              <Button className="mt-2" onClick={() => query.refetch()}>
                {t('tryAgain')}
              </Button>
            )}
          </Notice>
        )}
        {data === undefined && !(refused && !isFetching) && (
          <div role="status" aria-label={t('loading')} className="h-40 animate-pulse rounded-md bg-highlight" />
        )}
      </section>
    </main>
  );
}
