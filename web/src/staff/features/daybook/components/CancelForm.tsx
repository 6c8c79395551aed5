import { CANCEL_REASONS, type CancelReason } from '@zaguan/core/visits';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { CONTROL, Field } from '../../../../shared/ui/Field.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
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
  const [cancel, { error, isLoading }] = daybookApi.useCancelVisitMutation();
  const [reason, setReason] = useState<CancelReason | null>(null);
  const [note, setNote] = useState('');
  const [asked, setAsked] = useState(false);
  const refused = apiError(error);
  const submit = async () => {
    setAsked(true);
    if (!reason) return;
    const result = await cancel({ id: visit.id, version: visit.version, reason, note });
    if ('data' in result && result.data) onDone(result.data.undo.id);
  };
  return (
    <form
      className="flex flex-col gap-2 rounded-md border border-line-strong bg-panel p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <fieldset className="flex flex-col gap-1">
        <legend className="font-bold">{t('visit.why')}</legend>
        {CANCEL_REASONS.filter((code) => code !== 'declined').map((code) => (
          <label key={code} className="flex items-center gap-2 py-0.5">
            <input
              type="radio"
              name="reason"
              value={code}
              checked={reason === code}
              onChange={() => setReason(code)}
              className="size-4 accent-accent"
            />{' '}
            {t(`visit.cancelReason.${code}`)}
          </label>
        ))}
      </fieldset>
      {asked && !reason && (
        <p role="alert" className="font-bold text-danger">
          {t('fault.needed')}
        </p>
      )}
      <Field label={t('visit.note')}>
        {(controlProps) => (
          <textarea
            {...controlProps}
            rows={2}
            maxLength={500}
            className={CONTROL}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        )}
      </Field>
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </Notice>
      )}
      <div className="flex gap-2">
        <Button type="submit" look="danger" disabled={isLoading}>
          {t('visit.doCancel')}
        </Button>
        <Button onClick={onKeep}>{t('cancelIt')}</Button>
      </div>
    </form>
  );
}
