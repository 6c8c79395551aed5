import type { ReactNode } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Button } from './Button.tsx';
import { Notice } from './Notice.tsx';

interface Props {
  readonly words: { readonly title: string; readonly note: string; readonly again: string; readonly reload: string };
  /** Where this becomes another one, it is tried again by itself: the address. */
  readonly at?: string;
  readonly children: ReactNode;
}

/** A page, or, where drawing it fails, what happened, what is safe and what to do: never a blank one. */
export function UnlessBroken({ words, at, children }: Props) {
  return (
    <ErrorBoundary
      resetKeys={[at]}
      fallbackRender={({ resetErrorBoundary }) => (
        <section className="mx-auto mt-12 flex max-w-md flex-col gap-3 p-4">
          <Notice tone="danger" live="assertive">
            <p className="font-bold">{words.title}</p>
            <p>{words.note}</p>
          </Notice>
          <div className="flex flex-wrap gap-2">
            <Button look="primary" onClick={resetErrorBoundary}>
              {words.again}
            </Button>
            <Button onClick={() => window.location.reload()}>{words.reload}</Button>
          </div>
        </section>
      )}
    >
      {children}
    </ErrorBoundary>
  );
}
