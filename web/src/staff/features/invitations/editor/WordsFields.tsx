import type { InvitationTemplateDoc } from '@zaguan/contracts/invitations';
import { fillWords, partsOf, textOf } from '@zaguan/core/invitations';
import { isGsm } from '@zaguan/core/messages';
import { useTranslation } from 'react-i18next';
import { Section, TextField, useValue } from '../../../forms/index.ts';
import { accountsApi } from '../../accounts/index.ts';

/** As long as the links of this clinic are; the last letters are the token's. */
const TOKEN_LENGTH = 16;
const linkLength = () => `${window.location.origin}/i/`.length + TOKEN_LENGTH;

/** The words in both languages, for a text message and for an e-mail, with how the text will look. */
export function WordsFields() {
  const { t } = useTranslation();
  return (
    <Section title={t('invite.editor.words')} note={t('invite.editor.wordsNote')}>
      {(['en', 'es'] as const).map((language) => (
        <fieldset key={language} className="flex flex-col gap-2" lang={language}>
          <legend className="font-bold" lang="en">
            {t(`recalls.list.${language}`)}
          </legend>
          <TextField name={`words.${language}.text`} label={t('invite.editor.text')} rows={3} />
          <TextPreview language={language} />
          <TextField name={`words.${language}.subject`} label={t('invite.editor.subject')} maxLength={120} />
          <TextField name={`words.${language}.mail`} label={t('invite.editor.mail')} rows={5} />
        </fieldset>
      ))}
    </Section>
  );
}

/** The text as somebody would read it, and how many messages it takes. */
function TextPreview({ language }: { language: 'en' | 'es' }) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const words = useValue<InvitationTemplateDoc['words'][typeof language]['text']>(`words.${language}.text`);
  if (!words.trim()) return null;
  const body = fillWords(textOf(words, language), {
    clinic: clinic?.name ?? '',
    phone: clinic?.phone ?? '',
    name: 'Ana',
  });
  return (
    <div className="rounded-md bg-surface-deep px-3 py-2" data-text-preview={language}>
      <p lang={language}>{body.replace('{link}', `${window.location.host}/i/…`)}</p>
      <p className="text-muted" lang="en">
        {t('invite.parts', { count: partsOf(body, linkLength()) })}
        {!isGsm(body) && ` · ${t('invite.notGsm')}`}
      </p>
    </div>
  );
}
