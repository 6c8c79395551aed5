import { type ReactNode, useEffect } from 'react';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';

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
  useEffect(() => {
    document.title = title;
  }, [title]);
  const loaded = query.data !== undefined;
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col" aria-busy={!loaded} data-setup-page>
      <header className="flex flex-wrap items-baseline gap-3 border-b border-line px-4 py-2">
        <h1 className="text-xl font-bold">{title}</h1>
        {note && <span className="text-muted">{note}</span>}
        {tools && <span className="ml-auto">{tools}</span>}
      </header>
      {loaded && <div className="flex min-h-0 flex-1">{children}</div>}
      {!loaded && <QueryFrame query={query} bars={5} />}
    </div>
  );
}
