import { scopeOf } from '@zaguan/contracts';
import { askRequest } from '@zaguan/contracts/desk';
import { URGENCIES } from '@zaguan/core/booking';
import { addDays } from '@zaguan/core/time';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../shared/ui/Button.tsx';
import { ContractForm, DateField, FormActions, SelectField, TextField, useContractForm } from '../../forms/index.ts';
import { accountsApi, useClinicTime } from '../accounts/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { bookingApi } from './booking.api.ts';

/** How long somebody has to book it, if nothing else is said. */
const USUAL_DAYS = 14;

/** Asks that a patient be booked: by a provider, or the desk for later. */
export function AskRequest({ patientId }: { patientId: string }) {
  const { t } = useTranslation();
  const { data } = accountsApi.useWhoAmIQuery({});
  const [isAsking, setAsking] = useState(false);
  if (!data?.me || scopeOf(data.me.role, 'bookingRequest.ask') === 'no') return null;
  if (!isAsking)
    return (
      <Button className="self-start" onClick={() => setAsking(true)}>
        {t('bookingRequests.ask')}
      </Button>
    );
  return <AskForm patientId={patientId} onDone={() => setAsking(false)} />;
}

function AskForm({ patientId, onDone }: { patientId: string; onDone: () => void }) {
  const { t } = useTranslation();
  const { today } = useClinicTime();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const undo = useUndoToast();
  const [ask] = bookingApi.useAskRequestMutation();
  const form = useContractForm(askRequest, {
    values: {
      visitTypeId: '',
      siteId: null,
      providerId: null,
      fromDate: today,
      dueDate: addDays(today, USUAL_DAYS),
      reason: '',
      urgency: 'routine',
    },
    fixed: { patientId },
    send: ask,
    onDone: (answer) => {
      undo(t('bookingRequests.asked'), answer.undo.id);
      onDone();
    },
    keepAs: `request.${patientId}`,
  });
  const named = (rows: readonly { id: string; name: string }[] = []) =>
    rows.map(({ id, name }) => ({ value: id, label: name }));
  return (
    <ContractForm
      of={form}
      label={t('bookingRequests.ask')}
      className="flex max-w-xl flex-col gap-3 rounded-md border border-line-strong bg-panel p-3"
      actions={
        <FormActions of={form} send={t('bookingRequests.ask')} leave={t('setup.giveUp')} onLeave={onDone} forgets />
      }
    >
      <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
        <SelectField name="visitTypeId" label={t('book.what')} options={named(clinic?.visitTypes)} />
        <SelectField
          name="urgency"
          label={t('bookingRequests.howSoon')}
          required={false}
          options={URGENCIES.map((each) => ({ value: each, label: t(`bookingRequests.urgency.${each}`) }))}
        />
        <DateField name="fromDate" label={t('bookingRequests.from')} />
        <DateField name="dueDate" label={t('bookingRequests.due')} />
        <SelectField
          name="providerId"
          label={t('bookingRequests.with')}
          none={t('bookingRequests.anyone')}
          options={named(clinic?.people.filter(({ kind }) => kind === 'provider'))}
        />
        <SelectField
          name="siteId"
          label={t('book.site')}
          none={t('bookingRequests.anywhere')}
          options={named(clinic?.sites)}
        />
      </div>
      <TextField name="reason" label={t('book.reason')} rows={2} />
    </ContractForm>
  );
}
