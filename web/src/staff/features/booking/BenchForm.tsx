import { putOnBench } from '@zaguan/contracts/desk';
import { useTranslation } from 'react-i18next';
import { CheckField, ContractForm, FormActions, TextField, useContractForm } from '../../forms/index.ts';
import { bookingApi } from './booking.api.ts';

/** Puts a booked visit onto the Bench: it keeps its time until it has another, unless that is freed now. */
export function BenchForm({
  visit,
  onDone,
  onKeep,
}: {
  visit: { id: string; version: number };
  onDone: (undoId: string) => void;
  onKeep: () => void;
}) {
  const { t } = useTranslation();
  const [put] = bookingApi.usePutOnBenchMutation();
  const form = useContractForm(putOnBench, {
    values: { freeNow: false, note: '' },
    fixed: { appointmentId: visit.id as never, version: visit.version },
    send: put,
    onDone: (answer) => onDone(answer.undo.id),
    keepAs: `bench.${visit.id}`,
  });
  return (
    <ContractForm
      of={form}
      label={t('bench.put')}
      className="flex flex-col gap-2 rounded-md border border-line-strong bg-panel p-3"
      actions={<FormActions of={form} send={t('bench.put')} leave={t('cancelIt')} onLeave={onKeep} />}
    >
      <CheckField name="freeNow" label={t('bench.freeNow')} hint={t('bench.freeNowHint')} />
      <TextField name="note" label={t('visit.note')} rows={2} maxLength={500} />
    </ContractForm>
  );
}
