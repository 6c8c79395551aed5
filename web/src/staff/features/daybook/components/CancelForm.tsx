import { cancelVisit } from '@zaguan/contracts/booking';
import { CANCEL_REASONS } from '@zaguan/core/visits';
import { useTranslation } from 'react-i18next';
import { ContractForm, FormActions, RadioField, TextField, useContractForm } from '../../../forms/index.ts';
import { daybookApi } from '../daybook.api.ts';

/** Cancelling asks for a reason; it can be undone. */
export function CancelForm({
  visit,
  onDone,
  onKeep,
}: {
  visit: { id: string; version: number };
  onDone: (undoId: string) => void;
  onKeep: () => void;
}) {
  const { t } = useTranslation();
  const [cancel] = daybookApi.useCancelVisitMutation();
  const form = useContractForm(cancelVisit, {
    // Nothing is chosen for anyone.
    values: { reason: null as never, note: '' },
    fixed: { id: visit.id as never, version: visit.version },
    send: cancel,
    onDone: (answer) => onDone(answer.undo.id),
    keepAs: `cancel.${visit.id}`,
  });
  return (
    <ContractForm
      of={form}
      className="flex flex-col gap-2 rounded-md border border-line-strong bg-panel p-3"
      actions={
        <FormActions of={form} look="danger" send={t('visit.doCancel')} leave={t('cancelIt')} onLeave={onKeep} />
      }
    >
      <RadioField
        name="reason"
        label={t('visit.why')}
        options={CANCEL_REASONS.filter((code) => code !== 'declined' && code !== 'to-be-rebooked').map((code) => ({
          value: code,
          label: t(`visit.cancelReason.${code}`),
        }))}
      />
      <TextField name="note" label={t('visit.note')} rows={2} maxLength={500} />
    </ContractForm>
  );
}
