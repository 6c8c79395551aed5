import type { ReactNode } from 'react';

const TONES = {
  danger: 'border-danger bg-danger-subtle',
  warning: 'border-warning bg-warning-subtle',
  success: 'border-accent bg-accent-subtle',
} as const;

/** Says what happened beside the thing it is about; announced to screen readers. */
export function Notice({
  tone,
  children,
  live = 'polite',
}: {
  tone: keyof typeof TONES;
  children: ReactNode;
  live?: 'polite' | 'assertive';
}) {
  return (
    <div role={live === 'assertive' ? 'alert' : 'status'} className={`rounded-md border-l-4 px-3 py-2 ${TONES[tone]}`}>
      {children}
    </div>
  );
}
