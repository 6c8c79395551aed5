import { nonGsmLetters } from '@zaguan/core/messages';
import { useController } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { type Named, TextField } from '../../../forms/index.ts';

/** A name that stands in text messages: what of it makes each of them cost double, and the same without it. */
export function NameInTextsField(props: Named) {
  const { t } = useTranslation();
  const { field } = useController({ name: props.name });
  const found = nonGsmLetters(String(field.value ?? ''));
  const { instead } = found ?? {};
  return (
    <>
      <TextField {...props} required />
      {found && (
        <Notice tone="warning" live="polite">
          <p>{t('setup.nonGsmLetters', { letters: found.letters.join(' ') })}</p>
          {instead ? (
            <Button className="mt-2" onClick={() => field.onChange(instead)}>
              {t('setup.useInstead', { text: instead })}
            </Button>
          ) : (
            <p>{t('setup.noGsmSpelling')}</p>
          )}
        </Notice>
      )}
    </>
  );
}
