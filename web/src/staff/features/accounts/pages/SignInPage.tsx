import { signIn } from '@zaguan/contracts/accounts';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Logo } from '../../../../shared/arch/ArchMark.tsx';
import { OWN_ZONE, timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { ContractForm, TextField, useContractForm } from '../../../forms/index.ts';
import { accountsApi } from '../accounts.api.ts';

export function SignInPage() {
  const { t } = useTranslation();
  const [send, { error, isLoading }] = accountsApi.useSignInMutation();
  const { data: demo } = accountsApi.useDemoAccountsQuery({});
  const form = useContractForm(signIn, {
    values: { email: '', password: '' },
    fixed: {},
    send,
    onDone: () => undefined,
  });
  // The form names the field that can't be used; everything else is said above it.
  const failed = apiError(error);
  const until = failed?.facts.until ? timeOf(String(failed.facts.until), OWN_ZONE) : '';
  return (
    // Held from the top: the demo's buttons come later and must not move a field under a finger.
    <main className="mx-auto flex min-h-dvh max-w-sm flex-col gap-5 px-4 pt-[16dvh] pb-8">
      <div className="flex items-center gap-3">
        <Logo size={48} />
        <h1 className="text-3xl font-bold">Zaguan</h1>
      </div>
      {failed && (
        <Notice tone="danger" live="assertive">
          {t(`error.${failed.tag}`, { until, requestId: failed.requestId })}
        </Notice>
      )}
      <ContractForm
        of={{ ...form, refused: null }}
        className="flex flex-col gap-3"
        actions={
          <Button type="submit" look="primary" className="py-2" disabled={isLoading}>
            {t('signIn.go')}
          </Button>
        }
      >
        <TextField name="email" type="email" autoComplete="username" required={false} label={t('signIn.email')} />
        <TextField
          name="password"
          type="password"
          autoComplete="current-password"
          required={false}
          label={t('signIn.password')}
        />
      </ContractForm>
      {demo && demo.accounts.length > 0 && (
        <section className="rounded-md border border-dashed border-line-strong p-3">
          <h2 className="font-bold">{t('signIn.demo')}</h2>
          <div className="mt-2 flex flex-wrap gap-2">
            {demo.accounts.map((account) => (
              <Button
                key={account.role}
                data-role={account.role}
                disabled={isLoading}
                onClick={() => void send({ email: account.email, password: account.password })}
              >
                {t(`role.${account.role}`)}
              </Button>
            ))}
          </div>
          <p className="mt-2 text-muted">{t('signIn.demoNote')}</p>
        </section>
      )}
    </main>
  );
}
