import { WORK_OUTCOMES } from '@zaguan/core/work';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { ActionMenu } from '../../shell/ActionMenu.tsx';
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
    <ActionMenu
      words={t('today.finish')}
      options={WORK_OUTCOMES.map((value) => ({ value, label: t(`today.outcome.${value}`) }))}
      disabled={isLoading}
      onChoose={(outcome) => void done(outcome)}
    />
  );
}
