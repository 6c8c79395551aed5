import { MAX_NAME_LENGTH } from '@zaguan/contracts/booking';
import type { InputHTMLAttributes } from 'react';
import { Controller, type UseFormReturn } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { codeWords } from '../../../../shared/i18n/codeWords.ts';
import { isSaid, toggled } from '../../../../shared/reasons.ts';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { choices, type TypedPerson } from '../choices.slice.ts';
import { BirthDateField } from './BirthDateField.tsx';
import { CommonReasons } from './CommonReasons.tsx';

interface Props {
  readonly form: UseFormReturn<TypedPerson>;
  /** The site's own date. */
  readonly today: string;
}

/** Name, date of birth, a way to be reached, and why. What is typed is kept when a field is left. */
export function PersonFields({ form, today }: Props) {
  const { t } = useTranslation();
  return (
    <>
      <div>
        <div className="grid grid-cols-2 gap-3">
          <Line form={form} name="givenName" label={t('you.given')} autoComplete="given-name" />
          <Line form={form} name="familyName" label={t('you.family')} autoComplete="family-name" />
        </div>
        <p className="mt-1 text-muted">{t('you.oneName')}</p>
      </div>
      <BirthDate form={form} today={today} />
      <Contact form={form} />
      <Reason form={form} />
    </>
  );
}

/** What is wrong with a field, in words, and what keeps it. */
function useTyped(form: Props['form'], name: keyof TypedPerson) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const code = form.formState.errors[name]?.message;
  return {
    fault: code ? codeWords(t, 'fault', code, { max: MAX_NAME_LENGTH }, t('fault.unusable')) : undefined,
    keep: () => dispatch(choices.actions.typed({ [name]: form.getValues(name) })),
  };
}

function Line({
  form,
  name,
  label,
  hint,
  required,
  ...input
}: Pick<Props, 'form'> & { name: keyof TypedPerson; label: string; hint?: string; required?: string } & Pick<
    InputHTMLAttributes<HTMLInputElement>,
    'type' | 'autoComplete'
  >) {
  const { fault, keep } = useTyped(form, name);
  return (
    <Field label={label} required={required} hint={hint} error={fault}>
      {(controlProps) => (
        <input
          {...controlProps}
          {...input}
          className={`${CONTROL} min-h-11`}
          {...form.register(name, { onBlur: keep })}
        />
      )}
    </Field>
  );
}

function BirthDate({ form, today }: Props) {
  const dispatch = useAppDispatch();
  const { fault } = useTyped(form, 'birthDate');
  return (
    <Controller
      control={form.control}
      name="birthDate"
      render={({ field }) => (
        <BirthDateField
          value={field.value}
          today={today}
          error={fault}
          onChange={(text) => {
            field.onChange(text);
            dispatch(choices.actions.typed({ birthDate: text }));
            if (form.formState.errors.birthDate) void form.trigger('birthDate');
          }}
          onBlur={field.onBlur}
        />
      )}
    />
  );
}

/** A phone, or for whoever has none an e-mail address. */
function Contact({ form }: Pick<Props, 'form'>) {
  const { t } = useTranslation();
  const dispatch = useAppDispatch();
  const by = useAppSelector((state) => state.choices.by);
  const kind = by === 'email' ? 'email' : 'tel';
  return (
    <div className="flex flex-col items-start gap-1 [&>:first-child]:w-full">
      <Line
        key={by}
        form={form}
        name="contact"
        label={t(`you.${by}`)}
        required={t('required')}
        hint={t(`you.${by}Hint`)}
        type={kind}
        autoComplete={kind}
      />
      <button
        type="button"
        className="min-h-11 underline"
        onClick={() => {
          dispatch(choices.actions.choseWay(by === 'phone' ? 'email' : 'phone'));
          form.setValue('contact', '');
          form.clearErrors('contact');
        }}
      >
        {t(by === 'phone' ? 'you.noPhone' : 'you.havePhone')}
      </button>
    </div>
  );
}

function Reason({ form }: Pick<Props, 'form'>) {
  const { t } = useTranslation();
  const { fault, keep } = useTyped(form, 'reason');
  return (
    <>
      <Field label={t('you.reason')} required={t('optional')} hint={t('you.reasonHint')} error={fault}>
        {(controlProps) => (
          <textarea {...controlProps} rows={3} className={CONTROL} {...form.register('reason', { onBlur: keep })} />
        )}
      </Field>
      <CommonReasons
        onPick={(reason) => {
          const before = form.getValues('reason');
          // A second press takes nothing away: on a phone it may be a slip.
          if (isSaid(before, reason)) return;
          form.setValue('reason', toggled(before, reason), { shouldDirty: true, shouldValidate: true });
          keep();
        }}
      />
    </>
  );
}
