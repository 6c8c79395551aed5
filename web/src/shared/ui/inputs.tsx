import { type InputHTMLAttributes, type ReactNode, type SelectHTMLAttributes, useState } from 'react';
import { CONTROL, Field } from './Field.tsx';

interface Labeled {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly error?: string;
}

/** A labeled line to type into: text, a number, a date. */
export function TextField({ label, hint, error, ...input }: Labeled & InputHTMLAttributes<HTMLInputElement>) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(controlProps) => <input {...controlProps} className={CONTROL} {...input} />}
    </Field>
  );
}

interface Options {
  /** What can be chosen, by name; other options are the children. */
  readonly options?: readonly { readonly id: string; readonly name: string }[];
  /** The words for none of them. */
  readonly none?: string;
}

/** A labeled choice of one. */
export function SelectField({
  label,
  hint,
  error,
  options = [],
  none,
  children,
  ...select
}: Labeled & Options & SelectHTMLAttributes<HTMLSelectElement>) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(controlProps) => (
        <select {...controlProps} className={CONTROL} {...select}>
          {none !== undefined && <option value="">{none}</option>}
          {options.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
          {children}
        </select>
      )}
    </Field>
  );
}

/** A box to tick, or one of several to choose, with its words beside it. */
export function TickField({
  type = 'checkbox',
  className = '',
  children,
  ...input
}: { type?: 'checkbox' | 'radio' } & InputHTMLAttributes<HTMLInputElement>) {
  return (
    <label className={`flex items-center gap-2 ${className}`}>
      <input type={type} className="size-4 shrink-0 accent-accent" {...input} />
      {children}
    </label>
  );
}

/**
 * A whole number between two bounds. While somebody types, what can't be yet is left alone ("4" on the way to "45"); left
 * so, the last number that could be stands again.
 */
export function WholeNumberInput({
  value,
  min,
  max,
  step = 1,
  onValue,
  ...input
}: {
  value: number;
  min: number;
  max: number;
  step?: number;
  onValue: (value: number) => void;
} & Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'min' | 'max' | 'step' | 'onChange'>) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <input
      type="number"
      className={CONTROL}
      {...input}
      {...{ min, max, step }}
      value={typed ?? value}
      onChange={(event) => {
        setTyped(event.target.value);
        const number = Number(event.target.value);
        if (event.target.value !== '' && number >= min && number <= max && number % step === 0) onValue(number);
      }}
      onBlur={() => setTyped(null)}
    />
  );
}
