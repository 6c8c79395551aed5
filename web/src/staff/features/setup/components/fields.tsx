import { createContext, type ReactNode, useContext } from 'react';
import { type FieldError, useController, useFormContext, useFormState } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { wallTime } from '../../../../shared/time/format.ts';
import { readWallTime } from '../../../../shared/time/typedTimes.ts';
import type { Option } from '../hooks/useRefs.ts';

/** What a refusal's words name, by field. */
export const FaultFacts = createContext<Readonly<Record<string, unknown>>>({});

/** The words of a field's fault, if it has one. */
export function useFault(name: string): string | undefined {
  const { t } = useTranslation();
  const facts = useContext(FaultFacts);
  const { errors } = useFormState({ name });
  const found = name
    .split('.')
    .reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], errors);
  const fault = (found as FieldError | { root?: FieldError } | undefined) ?? undefined;
  const message = fault && ('message' in fault ? fault.message : 'root' in fault ? fault.root?.message : undefined);
  return message ? t(`setup.fault.${message}`, { ...facts, defaultValue: t('setup.fault.other') }) : undefined;
}

export interface Named {
  readonly name: string;
  readonly label: string;
  readonly hint?: ReactNode;
  readonly required?: boolean;
}

/** Marks the place that a link of the guide leads to. */
function Place({ name, children }: { name: string; children: ReactNode }) {
  return <div data-field={name}>{children}</div>;
}

export function TextField({
  name,
  label,
  hint,
  required,
  rows,
  orNull,
  onLeave,
}: Named & { rows?: number; orNull?: boolean; onLeave?: (text: string) => void }) {
  const { t } = useTranslation();
  const { field } = useController({ name });
  const Tag = rows ? 'textarea' : 'input';
  return (
    <Place name={name}>
      <Field label={label} hint={hint} error={useFault(name)} required={required ? t('setup.required') : undefined}>
        {(controlProps) => (
          <Tag
            {...controlProps}
            rows={rows}
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
  const { t } = useTranslation();
  const { field } = useController({ name });
  const value = field.value as number | null;
  return (
    <Place name={name}>
      <Field label={label} hint={hint} error={useFault(name)} required={required ? t('setup.required') : undefined}>
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
export function TimeField({ name, label }: Named) {
  const { field } = useController({ name });
  const minute = field.value as number | null;
  return (
    <Field label={label} error={useFault(name)}>
      {(controlProps) => (
        <input
          {...controlProps}
          // Written anew when the minute changes; what is being typed stays as it is.
          key={minute}
          ref={field.ref}
          className={CONTROL}
          defaultValue={minute === null || Number.isNaN(minute) ? '' : wallTime(minute)}
          onBlur={(event) => {
            field.onChange(readWallTime(event.target.value) ?? Number.NaN);
            field.onBlur();
          }}
        />
      )}
    </Field>
  );
}

export function DateField({ name, label, orNull, hint }: Named & { orNull?: boolean }) {
  const { field } = useController({ name });
  return (
    <Field label={label} hint={hint} error={useFault(name)}>
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

/** One of some; `none` names the choice of nothing, which is kept as `null`. */
export function SelectField({
  name,
  label,
  hint,
  required,
  options,
  none,
  onChosen,
}: Named & { options: readonly Option[]; none?: string; onChosen?: (value: string | null) => void }) {
  const { t } = useTranslation();
  const { field } = useController({ name });
  const value = field.value as string | number | null;
  const numeric = typeof value === 'number';
  return (
    <Place name={name}>
      <Field label={label} hint={hint} error={useFault(name)} required={required ? t('setup.required') : undefined}>
        {(controlProps) => (
          <select
            {...controlProps}
            ref={field.ref}
            className={CONTROL}
            value={value ?? ''}
            onBlur={field.onBlur}
            onChange={(event) => {
              const text = event.target.value;
              const chosen = text === '' && none !== undefined ? null : numeric ? Number(text) : text;
              field.onChange(chosen);
              onChosen?.(chosen === null ? null : String(chosen));
            }}
          >
            {none !== undefined ? <option value="">{none}</option> : value === '' && <option value="">–</option>}
            {options.map((option) => (
              <option key={option.value} value={option.value}>
                {option.label}
              </option>
            ))}
          </select>
        )}
      </Field>
    </Place>
  );
}

export function CheckField({ name, label, hint }: Named) {
  const { field } = useController({ name });
  return (
    <Place name={name}>
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          name={name}
          ref={field.ref}
          className="mt-0.5 size-4 accent-accent"
          checked={Boolean(field.value)}
          onChange={(event) => field.onChange(event.target.checked)}
        />
        <span>
          {label}
          {hint && <span className="block text-muted">{hint}</span>}
        </span>
      </label>
    </Place>
  );
}

/** Some of several, as boxes to press. `all` names the choice of all, which is kept as `null`. */
export function ManyField({
  name,
  label,
  options,
  all,
  hint,
  onChosen,
}: Named & { options: readonly Option[]; all?: string; onChosen?: (values: readonly (string | number)[]) => void }) {
  const { field } = useController({ name });
  const fault = useFault(name);
  const numeric = options.length > 0 && options.every(({ value }) => /^\d$/.test(value));
  const chosen = ((field.value as readonly (string | number)[] | null) ?? []).map(String);
  const set = (values: string[] | null) => {
    const typed = values && (numeric ? values.map(Number).sort((a, b) => a - b) : values);
    field.onChange(typed);
    onChosen?.(typed ?? []);
  };
  return (
    <Place name={name}>
      <fieldset>
        <legend className="mb-1 font-semibold">{label}</legend>
        <div className="flex flex-wrap gap-1">
          {all !== undefined && <Box text={all} checked={field.value === null} onChange={() => set(null)} />}
          {options.map(({ value, label: text }) => (
            <Box
              key={value}
              text={text}
              checked={field.value !== null && chosen.includes(value)}
              onChange={(checked) => set(checked ? [...chosen, value] : chosen.filter((each) => each !== value))}
            />
          ))}
        </div>
        {hint && <p className="mt-1 text-muted">{hint}</p>}
        {fault && (
          <p role="alert" className="mt-1 font-semibold text-danger">
            {fault}
          </p>
        )}
      </fieldset>
    </Place>
  );
}

export function Box({
  text,
  checked,
  onChange,
}: {
  text: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <label
      className={`cursor-pointer rounded-md border px-2.5 py-1 has-focus-visible:outline-3 has-focus-visible:outline-accent ${checked ? 'border-accent bg-accent font-semibold text-on-fill' : 'border-line-strong bg-panel'}`}
    >
      <input
        type="checkbox"
        className="sr-only"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {text}
    </label>
  );
}

/** A part of a form under its own heading. */
export function Section({ title, note, children }: { title: string; note?: ReactNode; children: ReactNode }) {
  return (
    <section aria-label={title} className="flex flex-col gap-3 border-t border-line pt-3">
      <h3 className="text-[1.05rem] font-bold">{title}</h3>
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
