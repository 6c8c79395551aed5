import { type Role, scopeOf } from '@zaguan/contracts';
import type { VisitReadiness } from '@zaguan/contracts/intake';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../shared/ui/Field.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
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
  const [clear, { error, isLoading }] = intakeApi.useClearFlagMutation();
  const [note, setNote] = useState('');
  const [asked, setAsked] = useState(false);
  const refused = apiError(error);
  const submit = async () => {
    setAsked(true);
    if (!note.trim()) return;
    const result = await clear({ id: flagId, note });
    if (result.data) undo(t('flag.cleared'), result.data.undo.id);
  };
  return (
    <form
      className="mt-2 flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <Field label={t('flag.note')} error={asked && !note.trim() ? t('fault.needed') : undefined}>
        {(controlProps) => (
          <input
            {...controlProps}
            name="note"
            maxLength={300}
            className={CONTROL}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        )}
      </Field>
      {refused && <p role="alert">{t(`error.${refused.tag}`, { requestId: refused.requestId })}</p>}
      <div>
        <Button type="submit" look="primary" disabled={isLoading}>
          {t('flag.clear')}
        </Button>
      </div>
    </form>
  );
}
