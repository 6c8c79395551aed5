import { scopeOf } from '@zaguan/contracts';
import { openRestricted } from '@zaguan/contracts/patients';
import { useTranslation } from 'react-i18next';
import { ContractForm, FormActions, TextField, useContractForm } from '../../forms/index.ts';
import { accountsApi } from '../accounts/index.ts';
import { patientsApi } from './patients.api.ts';

/** What somebody sees who may not open a restricted record: that it is one, and how to open it with a reason. */
export function OpenWithReason({ id }: { id: string }) {
  const { t } = useTranslation();
  const { data } = accountsApi.useWhoAmIQuery({});
  const [open] = patientsApi.useOpenRestrictedMutation();
  const form = useContractForm(openRestricted, {
    values: { reason: '' },
    fixed: { id },
    send: open,
    // The record is asked for again by itself, and opens.
    onDone: () => {},
    keepAs: `patient.open.${id}`,
  });
  if (!data?.me || scopeOf(data.me.role, 'patients.open-restricted') === 'no') return null;
  return (
    <ContractForm
      of={form}
      label={t('edit.open')}
      className="mx-4 flex max-w-lg flex-col gap-3 rounded-md border border-line-strong bg-panel p-4"
      actions={<FormActions of={form} send={t('edit.open')} />}
    >
      <p>{t('edit.openNote')}</p>
      <TextField name="reason" label={t('edit.openReason')} rows={2} />
    </ContractForm>
  );
}
