import { useController } from 'react-hook-form';
import { CONTROL, Field } from '../../shared/ui/Field.tsx';
import { useFault, useRequired } from './contractForm.ts';
import { type Named, type Option, Place } from './fields.tsx';

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
  const { field } = useController({ name });
  const value = field.value as string | number | null;
  const mark = useRequired(name, none === undefined ? '' : null, required);
  const numeric = typeof value === 'number';
  return (
    <Place name={name}>
      <Field label={label} hint={hint} error={useFault(name)} required={mark}>
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

/** One of a few, all in sight. */
export function RadioField({ name, label, options }: Named & { options: readonly Option[] }) {
  const { field } = useController({ name });
  const fault = useFault(name);
  return (
    <Place name={name}>
      <fieldset className="flex flex-col gap-1" aria-invalid={Boolean(fault)}>
        <legend className="font-bold">{label}</legend>
        {options.map((option, i) => (
          <label key={option.value} className="flex items-center gap-2 py-0.5">
            <input
              type="radio"
              name={name}
              ref={i === 0 ? field.ref : undefined}
              value={option.value}
              checked={field.value === option.value}
              onChange={() => field.onChange(option.value)}
              className="size-4 accent-accent"
            />
            {option.label}
          </label>
        ))}
        {fault && (
          <p role="alert" className="font-semibold text-danger">
            {fault}
          </p>
        )}
      </fieldset>
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
