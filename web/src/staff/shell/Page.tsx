import { ScrollRegion } from '../../shared/ui/ScrollRegion.tsx';
import { type ReactNode, useEffect } from 'react';
import { type ApiError, apiError } from '../../shared/api/contractApi.ts';
import { QueryFrame } from './QueryFrame.tsx';

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
  /** What can be done where it is refused, below the reason. */
  readonly whenRefused?: ReactNode;
  /** What it shows may be wider than a phone: a table. */
  readonly sideways?: boolean;
  readonly children: (data: T) => ReactNode;
}

/** A page of the staff application: its title, then loading, failed (what happened, try again) or its content, which scrolls. */
export function Page<T>(props: Props<T>) {
  const { title, tabTitle = title, query, note, toolbar, explain, whenRefused, sideways, children } = props;
  useEffect(() => {
    document.title = tabTitle;
  }, [tabTitle]);
  const { currentData: data } = query;
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-baseline gap-3 border-b border-line px-4 py-2">
        <h1 className="text-xl font-bold">{title}</h1>
        {note}
      </header>
      {toolbar}
      <ScrollRegion
        sideways={sideways}
        className="min-h-0 flex-1 p-4"
        aria-label={title}
        aria-busy={data === undefined}
      >
        {data !== undefined && children(data)}
        {data === undefined && <QueryFrame query={query} explain={explain} bars={4} />}
        {data === undefined && apiError(query.error)?.tag === 'NotAllowed' && whenRefused}
      </ScrollRegion>
    </main>
  );
}
