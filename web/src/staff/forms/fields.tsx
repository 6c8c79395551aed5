import { type ReactNode, useState } from 'react';
import { useController, useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { CONTROL, Field } from '../../shared/ui/Field.tsx';
import { wallTime } from '../../shared/time/format.ts';
import { readWallTime } from '../../shared/time/typedTimes.ts';
import { useFault, useRequired } from './contractForm.ts';

/** One of several that can be chosen. */
export interface Option {
  readonly value: string;
  readonly label: string;
}

export interface Named {
  readonly name: string;
  readonly label: string;
  readonly hint?: ReactNode;
  readonly required?: boolean;
}

/** Marks the place that a link of the guide leads to. */
export function Place({ name, children }: { name: string; children: ReactNode }) {
  return <div data-field={name}>{children}</div>;
}

export function TextField({
  name,
  label,
  hint,
  required,
  rows,
  orNull,
  maxLength,
  type = 'text',
  autoComplete,
  onLeave,
}: Named & {
  rows?: number;
  orNull?: boolean;
  maxLength?: number;
  type?: 'text' | 'email' | 'password';
  autoComplete?: string;
  onLeave?: (text: string) => void;
}) {
  const { field } = useController({ name });
  const mark = useRequired(name, orNull ? null : '', required);
  const Tag = rows ? 'textarea' : 'input';
  return (
    <Place name={name}>
      <Field label={label} hint={hint} error={useFault(name)} required={mark}>
        {(controlProps) => (
          <Tag
            {...controlProps}
            {...(rows ? { rows } : { type, autoComplete })}
            name={name}
            maxLength={maxLength}
            ref={field.ref}
            className={CONTROL}
            value={(field.value as string | null) ?? ''}
            onChange={(event) => field.onChange(orNull && event.target.value === '' ? null : event.target.value)}
            onBlur={(event) => {
              field.onBlur();
              onLeave?.(event.target.value);
            }}
          />
        )}
      </Field>
    </Place>
  );
}

/** What patients read, in both languages side by side. */
export function PairField({ name, label, hint, required, rows }: Named & { rows?: number }) {
  const { t } = useTranslation();
  return (
    <div className="grid grid-cols-2 gap-3">
      <TextField
        name={`${name}En`}
        label={`${label}, ${t('setup.english')}`}
        hint={hint}
        required={required}
        rows={rows}
      />
      <TextField name={`${name}Es`} label={`${label}, ${t('setup.spanish')}`} required={required} rows={rows} />
    </div>
  );
}

export function NumberField({
  name,
  label,
  hint,
  required,
  orNull,
  step,
}: Named & { orNull?: boolean; step?: number }) {
  const { field } = useController({ name });
  const mark = useRequired(name, orNull ? null : Number.NaN, required);
  const value = field.value as number | null;
  return (
    <Place name={name}>
      <Field label={label} hint={hint} error={useFault(name)} required={mark}>
        {(controlProps) => (
          <input
            {...controlProps}
            type="number"
            step={step}
            ref={field.ref}
            className={CONTROL}
            value={value === null || Number.isNaN(value) ? '' : value}
            onChange={(event) => {
              const text = event.target.value;
              field.onChange(text === '' ? (orNull ? null : Number.NaN) : Number(text));
            }}
            onBlur={field.onBlur}
          />
        )}
      </Field>
    </Place>
  );
}

/** A time of day as people write it; kept as minutes after midnight. */
export function TimeField({ name, label, orNull }: Named & { orNull?: boolean }) {
  const { field } = useController({ name });
  const minute = field.value as number | null;
  // What is typed is taken with each key: a fault that went only on leaving would move the button under the pointer.
  const [typed, setTyped] = useState<string | null>(null);
  const read = (text: string) => (orNull && text.trim() === '' ? null : (readWallTime(text) ?? Number.NaN));
  return (
    <Field label={label} error={useFault(name)}>
      {(controlProps) => (
        <input
          {...controlProps}
          ref={field.ref}
          className={CONTROL}
          value={typed ?? (minute === null || Number.isNaN(minute) ? '' : wallTime(minute))}
          onChange={(event) => {
            setTyped(event.target.value);
            field.onChange(read(event.target.value));
          }}
          onBlur={() => {
            // Written as times are written here; what can't be read stays as it was typed.
            if (typed !== null && !Number.isNaN(read(typed))) setTyped(null);
            field.onBlur();
          }}
        />
      )}
    </Field>
  );
}

export function DateField({ name, label, orNull, hint, required }: Named & { orNull?: boolean }) {
  const { field } = useController({ name });
  const mark = useRequired(name, orNull ? null : '', required);
  return (
    <Field label={label} hint={hint} error={useFault(name)} required={mark}>
      {(controlProps) => (
        <input
          {...controlProps}
          type="date"
          ref={field.ref}
          className={CONTROL}
          value={(field.value as string | null) ?? ''}
          onChange={(event) => field.onChange(orNull && event.target.value === '' ? null : event.target.value)}
          onBlur={field.onBlur}
        />
      )}
    </Field>
  );
}

/** A part of a form under its own heading. */
export function Section({ title, note, children }: { title: string; note?: ReactNode; children: ReactNode }) {
  return (
    <section aria-label={title} className="flex flex-col gap-3 border-t border-line pt-3">
      <h3 className="text-lg font-bold">{title}</h3>
      {note && <p className="text-muted">{note}</p>}
      {children}
    </section>
  );
}

/** The fault of a list as a whole. */
export function ListFault({ name }: { name: string }) {
  const fault = useFault(name);
  return fault ? (
    <p role="alert" className="font-semibold text-danger">
      {fault}
    </p>
  ) : null;
}

/** The present value of another field. */
export function useValue<T>(name: string): T {
  return useFormContext().watch(name) as T;
}
