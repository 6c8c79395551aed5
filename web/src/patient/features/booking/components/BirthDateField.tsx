import { readBirthDate } from '@zaguan/core/patients';
import { useTranslation } from 'react-i18next';
import { formatBirthDate } from '../../../../shared/time/format.ts';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { useLanguage } from '../hooks/useLanguage.ts';

/** A date of birth in any way of writing it, read back unmistakably; a doubtful one is asked, never guessed. */
export function BirthDateField({
  value,
  today,
  error,
  onChange,
  onBlur,
}: {
  value: string;
  today: string;
  error?: string;
  onChange: (text: string) => void;
  onBlur: () => void;
}) {
  const { t } = useTranslation();
  const language = useLanguage();
  const read = readBirthDate(value, language === 'es' ? 'day-first' : 'month-first', today);
  const doubtful = !read.ok && read.problem === 'ambiguous' ? read.readings : [];
  return (
    <Field
      label={t('you.birth')}
      required={t('required')}
      error={doubtful.length ? undefined : error}
      hint={
        read.ok ? (
          <span className="font-bold text-accent">
            {t('you.birthRead', { date: formatBirthDate(read.date, language) })}
          </span>
        ) : (
          t('you.birthHint')
        )
      }
    >
      {(controlProps) => (
        <>
          <input
            {...controlProps}
            name="birthDate"
            autoComplete="bday"
            inputMode="text"
            className={`${CONTROL} min-h-11`}
            value={value}
            onChange={(event) => onChange(event.target.value)}
            onBlur={onBlur}
          />
          {doubtful.length > 0 && (
            <fieldset className="mt-1 rounded-md border border-warning bg-warning-subtle px-3 py-2">
              <legend className="font-bold">{t('you.birthAsk')}</legend>
              <div className="flex flex-col gap-2">
                {doubtful.map((date) => (
                  <button
                    key={date}
                    type="button"
                    data-reading={date}
                    className="min-h-11 rounded-md border border-line-strong bg-panel px-3 text-left font-bold"
                    onClick={() => onChange(formatBirthDate(date, language))}
                  >
                    {formatBirthDate(date, language)}
                  </button>
                ))}
              </div>
            </fieldset>
          )}
        </>
      )}
    </Field>
  );
}
