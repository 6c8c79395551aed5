import { acceptInvitation, MIN_PASSWORD_LENGTH } from '@zaguan/contracts/setup';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { ContractForm, TextField, useContractForm } from '../../../forms/index.ts';
import { setupApi } from '../setup.api.ts';

/** An invitation opened: who is meant, and the choice of a password. The token never leaves the address's hash but to our server. */
export function JoinPage() {
  const { t } = useTranslation();
  const [token] = useState(() => window.location.hash.slice(1));
  const [read, invitation] = setupApi.useReadInvitationMutation();
  const [join, joined] = setupApi.useJoinMutation();
  const [again, setAgain] = useState('');
  const [isDifferent, setDifferent] = useState(false);
  const form = useContractForm(acceptInvitation, {
    values: { password: '' },
    fixed: { token },
    send: join,
    onDone: () => undefined,
  });
  useEffect(() => {
    document.title = t('setup.join.title');
    void read({ token });
  }, [read, token, t]);
  const refused = apiError(invitation.error) ?? form.refused;
  const atField = refused?.issues?.some(({ path }) => path === 'password');
  const submit = async (event?: React.BaseSyntheticEvent) => {
    event?.preventDefault();
    const differs = form.form.getValues('password') !== again;
    setDifferent(differs);
    // The first field's own faults are said either way.
    if (differs) await form.form.trigger();
    else await form.submit();
  };
  return (
    <main className="mx-auto mt-16 flex w-full max-w-md flex-col gap-4 p-4">
      <h1 className="text-2xl font-bold">{t('setup.join.title')}</h1>
      {refused && !atField && (
        <Notice tone="danger" live="assertive">
          {refused.tag === 'LinkGone' || refused.tag === 'InvalidInput'
            ? t('setup.join.gone')
            : t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </Notice>
      )}
      {joined.data && (
        <Notice tone="success">
          <p>{t('setup.join.done', { email: joined.data.email })}</p>
          <a className="font-bold underline" href="/">
            {t('signIn.title')}
          </a>
        </Notice>
      )}
      {invitation.data && !joined.data && (
        <ContractForm
          of={{ ...form, submit, refused: null }}
          className="flex flex-col gap-3"
          actions={
            <Button type="submit" look="primary" className="self-start" disabled={form.isSending}>
              {t('setup.join.go')}
            </Button>
          }
        >
          <p>
            {t('setup.join.hello', {
              name: invitation.data.name,
              clinic: invitation.data.clinic,
              role: t(`role.${invitation.data.role}`),
              email: invitation.data.email,
            })}
          </p>
          <TextField
            name="password"
            type="password"
            autoComplete="new-password"
            required={false}
            label={t('setup.join.password')}
            hint={t('setup.join.hint', { count: MIN_PASSWORD_LENGTH })}
          />
          <Field label={t('setup.join.again')} error={isDifferent ? t('fault.password-differs') : undefined}>
            {(controlProps) => (
              <input
                {...controlProps}
                type="password"
                autoComplete="new-password"
                className={CONTROL}
                value={again}
                onChange={(event) => setAgain(event.target.value)}
              />
            )}
          </Field>
        </ContractForm>
      )}
    </main>
  );
}
