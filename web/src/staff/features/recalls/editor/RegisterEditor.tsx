import type { RegisterDoc } from '@zaguan/contracts/recalls';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Section, TextField, useValue } from '../../../forms/index.ts';
import { ANYBODY } from '../../setup/index.ts';
import { WhoFields } from './WhoFields.tsx';

/** A register: its name, and who is on it by itself, if it has a rule. */
export function RegisterEditor() {
  const { t } = useTranslation();
  const { setValue } = useFormContext();
  const rule = useValue<RegisterDoc['rule']>('rule');
  return (
    <>
      <TextField name="name" label={t('setup.register.name')} maxLength={80} />
      <TextField name="note" label={t('setup.register.note')} maxLength={200} />
      <fieldset className="flex flex-col gap-1">
        <legend className="font-bold">{t('recalls.register.kept')}</legend>
        {[false, true].map((byRule) => (
          <label key={String(byRule)} className="flex items-center gap-2 py-0.5">
            <input
              type="radio"
              name="kept"
              className="size-4 accent-accent"
              checked={(rule !== null) === byRule}
              onChange={() => setValue('rule', byRule ? ANYBODY : null, { shouldDirty: true })}
            />
            {t(`recalls.register.${byRule ? 'byRule' : 'byHand'}`)}
          </label>
        ))}
      </fieldset>
      {rule !== null && (
        <Section title={t('recalls.editor.who')} note={t('recalls.editor.whoNote')}>
          <WhoFields name="rule" registers={false} />
        </Section>
      )}
    </>
  );
}
