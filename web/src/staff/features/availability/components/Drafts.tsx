import { createDraft } from '@zaguan/contracts/availability';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ContractForm, FormActions, TextField, useContractForm } from '../../../forms/index.ts';
import { draftsApi } from '../drafts.api.ts';
import { useDraft } from '../hooks/draftContext.ts';

/** The current schedule, or a draft; a new one is begun with a name. */
export function DraftChoice({ draftId, onChoose }: { draftId: string | null; onChoose: (id: string | null) => void }) {
  const { t } = useTranslation();
  const { data } = draftsApi.useDraftsQuery({});
  const [isNaming, setNaming] = useState(false);
  if (isNaming)
    return (
      <NewDraft
        onLeave={() => setNaming(false)}
        onMade={(id) => {
          setNaming(false);
          onChoose(id);
        }}
      />
    );
  return (
    <select
      aria-label={t('schedule.draft.choose')}
      className="max-w-[170px] rounded-md border border-line-strong bg-panel px-2 py-1.5 font-semibold"
      value={draftId ?? ''}
      onChange={(event) => (event.target.value === 'new' ? setNaming(true) : onChoose(event.target.value || null))}
    >
      <option value="">{t('schedule.draft.live')}</option>
      {data?.drafts.map((draft) => (
        <option key={draft.id} value={draft.id}>
          {t('schedule.draft.option', { name: draft.name })}
        </option>
      ))}
      <option value="new">{t('schedule.draft.new')}</option>
    </select>
  );
}

function NewDraft({ onMade, onLeave }: { onMade: (id: string) => void; onLeave: () => void }) {
  const { t } = useTranslation();
  const [create] = draftsApi.useCreateDraftMutation();
  const form = useContractForm(createDraft, {
    values: { name: '' },
    fixed: {},
    send: create,
    onDone: (answer) => onMade(answer.draft.id),
  });
  return (
    <ContractForm
      of={form}
      className="flex flex-wrap items-end gap-2"
      actions={
        <FormActions of={form} look="quiet" send={t('schedule.draft.begin')} leave={t('close')} onLeave={onLeave} />
      }
    >
      <TextField name="name" required={false} label={t('schedule.draft.name')} />
    </ContractForm>
  );
}

/** Says that nothing on this page holds yet. */
export function DraftBar({ onOpen, onLeave }: { onOpen: () => void; onLeave: () => void }) {
  const { t } = useTranslation();
  const draft = useDraft();
  return (
    <div className="flex items-center gap-3 border-b border-warning bg-warning-subtle px-3 py-1.5" role="status">
      <span className="font-bold text-warning">
        {draft && t('schedule.draft.bar', { name: draft.name, count: draft.editCount })}
      </span>
      <Button look="primary" disabled={!draft?.editCount} onClick={onOpen}>
        {t('schedule.draft.compare')}
      </Button>
      <Button onClick={onLeave}>{t('schedule.draft.leave')}</Button>
    </div>
  );
}
