import { cancelVisit } from '@zaguan/contracts/booking';
import type { Plate } from '@zaguan/contracts/daybook';
import { CANCEL_REASONS } from '@zaguan/core/visits';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { ContractForm, FormActions, RadioField, TextField, useContractForm } from '../../../forms/index.ts';
import { daybookApi } from '../daybook.api.ts';
import { type Reach, ReachChoice, useGroup } from './Together.tsx';

/** Cancelling asks for a reason; it can be undone. */
export function CancelForm({
  visit,
  onDone,
  onKeep,
}: {
  visit: Pick<Plate, 'id' | 'version' | 'groupKind'>;
  onDone: (undoId: string) => void;
  onKeep: () => void;
}) {
  const { t } = useTranslation();
  const [cancel] = daybookApi.useCancelVisitMutation();
  const [cancelGroup] = daybookApi.useCancelGroupMutation();
  const [reach, setReach] = useState<Reach>('this');
  const group = useGroup(visit);
  const others = group.reached(reach).map(({ id, version }) => ({ id: id as never, version }));
  const form = useContractForm(cancelVisit, {
    // Nothing is chosen for anyone.
    values: { reason: null as never, note: '' },
    fixed: { id: visit.id as never, version: visit.version },
    send: (input) => (others.length ? cancelGroup({ ...input, others }) : cancel(input)),
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
      <ReachChoice group={group} reach={reach} onReach={setReach} />
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
