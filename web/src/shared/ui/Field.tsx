import { type ReactNode, useId } from 'react';

interface ControlProps {
  readonly id: string;
  readonly 'aria-invalid': boolean;
  readonly 'aria-describedby': string | undefined;
}

/** A label, a control, its hint and its fault, joined for screen readers. */
export function Field({
  label,
  hint,
  error,
  required,
  children,
}: {
  label: string;
  hint?: ReactNode;
  error?: string;
  required?: string;
  children: (controlProps: ControlProps) => ReactNode;
}) {
  const id = useId();
  const describedBy = [hint && `${id}-hint`, error && `${id}-error`].filter(Boolean).join(' ') || undefined;
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="font-semibold">
        {label}
        {required && <span className="font-normal text-muted"> ({required})</span>}
      </label>
      {children({ id, 'aria-invalid': Boolean(error), 'aria-describedby': describedBy })}
      {hint && (
        <div id={`${id}-hint`} className="text-muted">
          {hint}
        </div>
      )}
      {error && (
        <div id={`${id}-error`} role="alert" className="font-semibold text-danger">
          {error}
        </div>
      )}
    </div>
  );
}

export const CONTROL =
  'w-full rounded-md border border-line-strong bg-panel px-3 py-2 aria-invalid:border-danger aria-invalid:border-2';
