import { type Role, scopeOf } from '@zaguan/contracts';
import { clearFlag, type VisitReadiness } from '@zaguan/contracts/intake';
import { useTranslation } from 'react-i18next';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { ContractForm, FormActions, TextField, useContractForm } from '../../forms/index.ts';
import { useClinicTime } from '../accounts/index.ts';
import { useUndoToast } from '../undo/index.ts';
import { intakeApi } from './intake.api.ts';

/** One red flag: what was answered, and clearing it for those who may. */
export function FlagBox({ flag, role }: { flag: VisitReadiness['flags'][number]; role: Role }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  if (flag.cleared)
    return (
      <p className="border-l-4 border-accent pl-2 text-muted">
        {flag.question.en} {t('flag.clearedBy', flag.cleared)}
      </p>
    );
  return (
    <Notice tone="danger">
      <p className="font-bold">
        {t(`flag.severity.${flag.severity}`)}: {t('flag.answered')} {t('flag.raised', { when: write(flag.raisedAt) })}
      </p>
      <p>
        {flag.question.en} <span className="font-bold">{flag.answer.en}</span>
      </p>
      <p className="text-muted">{t('flag.told', { advice: flag.told.en })}</p>
      {scopeOf(role, 'red-flag.clear') === 'no' ? (
        <p className="mt-1 text-muted">{t('flag.onlyClinician')}</p>
      ) : (
        <ClearForm flagId={flag.id} />
      )}
    </Notice>
  );
}

export function ClearForm({ flagId }: { flagId: string }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [clear] = intakeApi.useClearFlagMutation();
  const form = useContractForm(clearFlag, {
    values: { note: '' },
    fixed: { id: flagId },
    send: clear,
    onDone: (answer) => undo(t('flag.cleared'), answer.undo.id),
    keepAs: `flag.${flagId}`,
  });
  return (
    <ContractForm
      of={form}
      className="mt-2 flex flex-col gap-2"
      actions={<FormActions of={form} send={t('flag.clear')} />}
    >
      <TextField name="note" label={t('flag.note')} maxLength={300} />
    </ContractForm>
  );
}
