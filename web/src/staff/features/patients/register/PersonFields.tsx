import { SEXES } from '@zaguan/contracts/patients';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { SelectField, TextField } from '../../../forms/index.ts';
import { useClinicTime } from '../../accounts/index.ts';
import { BirthDateField } from '../BirthDateField.tsx';

/** One person of the form: the least that is required in sight, the rest a press away. */
export function PersonFields({ at, isAlone, onRemove }: { at: number; isAlone: boolean; onRemove: () => void }) {
  const { t } = useTranslation();
  const { today } = useClinicTime();
  const name = `people.${at}`;
  return (
    <fieldset data-person={at} className="flex flex-col gap-3 rounded-md border border-line-strong bg-panel p-3">
      <legend className={isAlone ? 'sr-only' : 'px-1 font-bold'}>{t('register.person', { number: at + 1 })}</legend>
      <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
        <TextField name={`${name}.givenName`} label={t('register.given')} autoComplete="off" required={false} />
        <TextField name={`${name}.familyName`} label={t('register.family')} autoComplete="off" required={false} />
      </div>
      <BirthDateField name={`${name}.birthDate`} label={t('register.birthDate')} today={today} />
      <details>
        <summary className="cursor-pointer text-muted">{t('register.more')}</summary>
        <div className="mt-2 grid grid-cols-2 gap-3 max-sm:grid-cols-1">
          <TextField name={`${name}.preferredName`} label={t('edit.preferred')} autoComplete="off" required={false} />
          <SelectField
            name={`${name}.sex`}
            label={t('edit.sex')}
            none={t('edit.notSaid')}
            required={false}
            options={SEXES.map((value) => ({ value, label: t(`edit.sexes.${value}`) }))}
          />
        </div>
      </details>
      {!isAlone && (
        <>
          <TextField
            name={`${name}.contact`}
            label={t('register.ownContact')}
            hint={t('register.ownContactHint')}
            autoComplete="off"
            required={false}
          />
          <Button className="self-start" onClick={onRemove}>
            {t('register.removePerson', { number: at + 1 })}
          </Button>
        </>
      )}
    </fieldset>
  );
}
