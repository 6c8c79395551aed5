import { cva, type VariantProps } from 'class-variance-authority';
import type { ReactNode } from 'react';

const notice = cva('rounded-md border-l-4 px-3 py-2', {
  variants: {
    tone: {
      danger: 'border-danger bg-danger-subtle',
      warning: 'border-warning bg-warning-subtle',
      success: 'border-accent bg-accent-subtle',
    },
  },
});

interface Props {
  readonly tone: NonNullable<VariantProps<typeof notice>['tone']>;
  readonly children: ReactNode;
  readonly live?: 'polite' | 'assertive';
}

/** Says what happened beside the thing it is about; announced to screen readers. */
export function Notice({ tone, children, live = 'polite' }: Props) {
  return (
    <div role={live === 'assertive' ? 'alert' : 'status'} className={notice({ tone })}>
      {children}
    </div>
  );
}
