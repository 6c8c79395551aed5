import { ageOn, readBirthDate } from '@zaguan/core/patients';
import { useState } from 'react';
import { useController } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { formatBirthDate } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../shared/ui/Field.tsx';
import { useFault } from '../../forms/index.ts';

/**
 * A date of birth as people say it; it is read back in words with the age, and where two dates are meant, it asks which.
 * The form holds the date, or what was typed while it can't be read.
 *
 * @param today the date at the clinic
 */
export function BirthDateField({ name, label, today }: { name: string; label: string; today: string }) {
  const { t } = useTranslation();
  const { field } = useController({ name });
  const fault = useFault(name);
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? String(field.value ?? '');
  const read = text.trim() ? readBirthDate(text, 'month-first', today) : null;
  const isTwo = read !== null && !read.ok && read.problem === 'ambiguous';
  const put = (next: string) => {
    setTyped(next);
    const reading = readBirthDate(next, 'month-first', today);
    field.onChange(reading.ok ? reading.date : next);
  };
  const said = read && !read.ok && fault ? t(`fault.birth-${read.problem}`) : fault;
  return (
    <Field
      label={label}
      required={t('setup.required')}
      error={said}
      hint={
        read?.ok ? (
          <span data-read={read.date}>
            {t('register.birthRead', { date: formatBirthDate(read.date), count: ageOn(read.date, today) })}
          </span>
        ) : isTwo ? (
          <span className="flex flex-wrap items-center gap-1">
            {t('register.birthWhich')}
            {read.readings.map((date) => (
              <Button key={date} onClick={() => put(date)}>
                {formatBirthDate(date)}
              </Button>
            ))}
          </span>
        ) : (
          t('register.birthHint')
        )
      }
    >
      {(controlProps) => (
        <input
          {...controlProps}
          ref={field.ref}
          className={CONTROL}
          autoComplete="off"
          maxLength={40}
          value={text}
          onChange={(event) => put(event.target.value)}
          onBlur={field.onBlur}
        />
      )}
    </Field>
  );
}
