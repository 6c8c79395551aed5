import { MIN_PASSWORD_LENGTH } from '@zaguan/contracts/setup';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { setupApi } from '../setup.api.ts';

/** An invitation opened: who is meant, and the choice of a password. The token never leaves the address's hash but to our server. */
export function JoinPage() {
  const { t } = useTranslation();
  const [token] = useState(() => window.location.hash.slice(1));
  const [read, invitation] = setupApi.useReadInvitationMutation();
  const [join, joined] = setupApi.useJoinMutation();
  const [password, setPassword] = useState('');
  const [again, setAgain] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    document.title = t('setup.join.title');
    void read({ token });
  }, [read, token, t]);
  const answered = apiError(joined.error ?? invitation.error);
  const common = answered?.issues?.some(({ code }) => code === 'password-common') ?? false;
  const refused = common ? null : answered;
  const submit = async () => {
    const found =
      password.length < MIN_PASSWORD_LENGTH ? 'password-short' : password !== again ? 'password-differs' : null;
    setFault(found);
    if (!found) await join({ token, password });
  };
  return (
    <main className="mx-auto mt-16 flex w-full max-w-md flex-col gap-4 p-4">
      <h1 className="text-2xl font-bold">{t('setup.join.title')}</h1>
      {refused && (
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
        <form
          noValidate
          className="flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void submit();
          }}
        >
          <p>
            {t('setup.join.hello', {
              name: invitation.data.name,
              clinic: invitation.data.clinic,
              role: t(`role.${invitation.data.role}`),
              email: invitation.data.email,
            })}
          </p>
          <Field
            label={t('setup.join.password')}
            hint={t('setup.join.hint', { count: MIN_PASSWORD_LENGTH })}
            error={
              fault === 'password-short'
                ? t('setup.fault.password-short')
                : common
                  ? t('setup.fault.password-common')
                  : undefined
            }
          >
            {(controlProps) => (
              <input
                {...controlProps}
                type="password"
                autoComplete="new-password"
                className={CONTROL}
                value={password}
                onChange={(event) => setPassword(event.target.value)}
              />
            )}
          </Field>
          <Field
            label={t('setup.join.again')}
            error={fault === 'password-differs' ? t('setup.fault.password-differs') : undefined}
          >
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
          <Button type="submit" look="primary" className="self-start" disabled={joined.isLoading}>
            {t('setup.join.go')}
          </Button>
        </form>
      )}
    </main>
  );
}
