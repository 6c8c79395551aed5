import type { AnswerFault, AnswerValue, FormItem } from '@zaguan/core/intake';
import { useId } from 'react';
import { useTranslation } from 'react-i18next';
import { CONTROL, Field } from '../ui/Field.tsx';

interface Props {
  readonly item: FormItem;
  readonly value: readonly AnswerValue[];
  readonly language: 'en' | 'es';
  readonly fault: AnswerFault | undefined;
  readonly prefilled: boolean;
  readonly onChange: (value: readonly AnswerValue[]) => void;
}

/** One question in the control that fits its kind. */
export function Question({ item, value, language, fault, prefilled, onChange }: Props) {
  const { t } = useTranslation();
  const hint = [prefilled && t('intake.prefilled'), item.hint?.[language]].filter(Boolean).join(' ') || undefined;
  if (item.type === 'boolean' || item.type === 'choice')
    return (
      <Choices item={item} value={value} language={language} fault={fault} prefilled={false} onChange={onChange} />
    );
  const text = value[0] === undefined ? '' : String(value[0]);
  const write = (typed: string) => {
    if (item.type !== 'integer') return onChange(typed === '' ? [] : [typed]);
    onChange(typed === '' ? [] : [/^-?\d+$/.test(typed) ? Number(typed) : typed]);
  };
  return (
    <Field
      label={item.text[language]}
      required={item.required ? undefined : t('optional')}
      hint={hint}
      error={fault && t(`intake.fault.${fault}`)}
    >
      {(controlProps) =>
        item.type === 'text' ? (
          <textarea
            {...controlProps}
            name={item.linkId}
            rows={3}
            className={CONTROL}
            value={text}
            onChange={(event) => write(event.target.value)}
          />
        ) : (
          <input
            {...controlProps}
            name={item.linkId}
            type={item.type === 'date' ? 'date' : 'text'}
            inputMode={item.type === 'integer' ? 'numeric' : undefined}
            className={`${CONTROL} min-h-11`}
            value={text}
            onChange={(event) => write(event.target.value)}
          />
        )
      }
    </Field>
  );
}

/** Yes and no, or options, as big targets. */
function Choices({ item, value, language, fault, onChange }: Props) {
  const { t } = useTranslation();
  const id = useId();
  const options: { code: AnswerValue; label: string }[] =
    item.type === 'boolean'
      ? [
          { code: true, label: t('intake.yes') },
          { code: false, label: t('intake.no') },
        ]
      : (item.options ?? []).map(({ code, text }) => ({ code, label: text[language] }));
  const toggle = (code: AnswerValue) =>
    onChange(item.repeats ? (value.includes(code) ? value.filter((each) => each !== code) : [...value, code]) : [code]);
  return (
    <fieldset aria-describedby={fault ? `${id}-error` : undefined}>
      <legend className="mb-1.5 font-semibold">
        {item.text[language]}
        {!item.required && <span className="font-normal text-muted"> ({t('optional')})</span>}
      </legend>
      {item.repeats && <p className="mb-1 text-muted">{t('intake.several')}</p>}
      <div className={item.type === 'boolean' ? 'grid grid-cols-2 gap-2' : 'flex flex-col gap-2'}>
        {options.map(({ code, label }) => (
          <label
            key={String(code)}
            className={`flex min-h-11 cursor-pointer items-center gap-2.5 rounded-md border bg-panel px-3 has-checked:border-accent has-checked:bg-accent-subtle has-checked:font-bold ${fault ? 'border-2 border-danger' : 'border-line-strong'}`}
          >
            <input
              type={item.repeats ? 'checkbox' : 'radio'}
              name={item.linkId}
              value={String(code)}
              checked={value.includes(code)}
              onChange={() => toggle(code)}
              className="size-5 accent-accent"
            />
            {label}
          </label>
        ))}
      </div>
      {fault && (
        <p id={`${id}-error`} role="alert" className="mt-1 font-semibold text-danger">
          {t(`intake.fault.${fault}`)}
        </p>
      )}
    </fieldset>
  );
}
