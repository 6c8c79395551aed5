import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { useUndoToast } from '../undo/index.ts';
import { todayApi } from './today.api.ts';

/** Somebody has asked the payer. */
export function SettleCoverage({ id }: { id: string }) {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const [settle, { isLoading }] = todayApi.useSettleCoverageMutation();
  const set = async (state: 'verified' | 'not-covered') => {
    const result = await settle({ id, state });
    const refused = apiError(result.error);
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
    else if (result.data) undo(t(`today.coverage.${state}`), result.data.undo.id);
  };
  return (
    <div className="flex gap-2">
      <Button disabled={isLoading} onClick={() => void set('verified')}>
        {t('today.coverage.doVerified')}
      </Button>
      <Button disabled={isLoading} onClick={() => void set('not-covered')}>
        {t('today.coverage.doNotCovered')}
      </Button>
    </div>
  );
}
