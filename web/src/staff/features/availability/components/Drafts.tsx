import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { draftsApi } from '../drafts.api.ts';
import { useDraft } from '../hooks/draftContext.ts';

/** What holds, or a draft; a new one is begun with a name. */
export function DraftChoice({ draftId, onChoose }: { draftId: string | null; onChoose: (id: string | null) => void }) {
  const { t } = useTranslation();
  const { data } = draftsApi.useDraftsQuery({});
  const [create, { isLoading }] = draftsApi.useCreateDraftMutation();
  const [name, setName] = useState<string | null>(null);
  const begin = async () => {
    const result = await create({ name: name ?? '' });
    if (!result.data) {
      const refused = apiError(result.error);
      toast.error(t(`error.${refused?.tag}`, { requestId: refused?.requestId }));
      return;
    }
    setName(null);
    onChoose(result.data.draft.id);
  };
  if (name !== null)
    return (
      <form
        className="flex items-center gap-1"
        onSubmit={(event) => {
          event.preventDefault();
          void begin();
        }}
      >
        <input
          aria-label={t('schedule.draft.name')}
          placeholder={t('schedule.draft.name')}
          className="w-[150px] rounded-md border border-line-strong bg-panel px-2 py-1.5"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" disabled={isLoading || !name.trim()}>
          {t('schedule.draft.begin')}
        </Button>
        <Button look="plain" onClick={() => setName(null)}>
          {t('close')}
        </Button>
      </form>
    );
  return (
    <select
      aria-label={t('schedule.draft.choose')}
      className="max-w-[170px] rounded-md border border-line-strong bg-panel px-2 py-1.5 font-semibold"
      value={draftId ?? ''}
      onChange={(event) => (event.target.value === 'new' ? setName('') : onChoose(event.target.value || null))}
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
