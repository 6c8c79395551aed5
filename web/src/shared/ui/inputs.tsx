import type { InputHTMLAttributes, ReactNode, SelectHTMLAttributes } from 'react';
import { CONTROL, Field } from './Field.tsx';

interface Labelled {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly error?: string;
}

/** A labelled line to type into: text, a number, a date. */
export function TextField({ label, hint, error, ...input }: Labelled & InputHTMLAttributes<HTMLInputElement>) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(given) => <input {...given} className={CONTROL} {...input} />}
    </Field>
  );
}

/** A labelled choice of one; its options are the children. */
export function SelectField({
  label,
  hint,
  error,
  children,
  ...select
}: Labelled & SelectHTMLAttributes<HTMLSelectElement>) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(given) => (
        <select {...given} className={CONTROL} {...select}>
          {children}
        </select>
      )}
    </Field>
  );
}
