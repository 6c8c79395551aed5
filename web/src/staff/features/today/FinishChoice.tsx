import { WORK_OUTCOMES } from '@zaguan/core/work';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { useUndoToast } from '../undo/index.ts';
import { todayApi } from './today.api.ts';

/** Done, and how it ended: the history of the visit says so. */
export function FinishChoice({ kind, id }: { kind: 'inbox' | 'failed'; id: string }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [finish, { isLoading }] = todayApi.useFinishMutation();
  const done = async (outcome: (typeof WORK_OUTCOMES)[number]) => {
    const result = await finish({ kind, id, outcome });
    const refused = apiError(result.error);
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
    else if (result.data) undo(t('today.doneAs', { how: t(`today.outcome.${outcome}`) }), result.data.undo.id);
  };
  return (
    <select
      aria-label={t('today.finish')}
      data-finish={kind}
      className="rounded-md border border-line-strong bg-panel px-2 py-1.5 font-semibold"
      value=""
      disabled={isLoading}
      onChange={(event) => {
        const outcome = WORK_OUTCOMES.find((each) => each === event.target.value);
        if (outcome) void done(outcome);
      }}
    >
      <option value="">{t('today.finish')}</option>
      {WORK_OUTCOMES.map((outcome) => (
        <option key={outcome} value={outcome}>
          {t(`today.outcome.${outcome}`)}
        </option>
      ))}
    </select>
  );
}
