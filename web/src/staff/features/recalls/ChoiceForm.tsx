import { decideRecall } from '@zaguan/contracts/recalls';
import { addMonths } from '@zaguan/core/time';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { ContractForm, DateField, FormActions, TextField, useContractForm } from '../../forms/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { recallsApi } from './recalls.api.ts';

export type ChoiceKind = 'later' | 'declined' | 'done-elsewhere';

interface Props {
  readonly kind: ChoiceKind;
  readonly planId: string;
  readonly patientId: string;
  readonly today: string;
  readonly onDone: () => void;
}

/** What somebody begins with: a month from now, or today. */
const firstDate = (kind: ChoiceKind, today: string) =>
  kind === 'declined' ? null : kind === 'later' ? addMonths(today, 1) : today;

/** Notes what a patient wants of a plan, as they said it to the desk. */
export function ChoiceForm({ kind, planId, patientId, today, onDone }: Props) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [decide] = recallsApi.useDecideRecallMutation();
  const [id] = useState(() => crypto.randomUUID());
  const form = useContractForm(decideRecall, {
    values: { date: firstDate(kind, today), note: '' },
    fixed: { id, planId, patientId, kind },
    send: decide,
    onDone: (answer) => {
      undo(t('recalls.why.noted'), answer.undo.id);
      onDone();
    },
    keepAs: `recall.${kind}.${planId}.${patientId}`,
  });
  return (
    <ContractForm
      of={form}
      label={t(`recalls.why.save.${kind}`)}
      className="mt-2 flex flex-col gap-2 rounded-md bg-surface-deep p-2"
      actions={
        <FormActions of={form} send={t(`recalls.why.save.${kind}`)} leave={t('dismiss')} onLeave={onDone} forgets />
      }
    >
      {kind === 'later' && <DateField name="date" label={t('recalls.why.laterDate')} />}
      {kind === 'done-elsewhere' && <DateField name="date" label={t('recalls.why.doneDate')} />}
      <TextField name="note" label={t('recalls.why.note')} maxLength={200} />
    </ContractForm>
  );
}
