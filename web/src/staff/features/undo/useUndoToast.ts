import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { undoApi } from './undo.api.ts';

/** Says what was done and offers to take it back; more about it stands below, a line each. */
export function useUndoToast(): (text: string, undoId: string, lines?: readonly string[]) => void {
  const { t } = useTranslation();
  const [undo] = undoApi.useUndoMutation();
  return (text, id, lines = []) => {
    toast(text, {
      ...(lines.length && { description: lines.join('\n'), descriptionClassName: 'whitespace-pre-line' }),
      action: {
        label: t('undo'),
        onClick: () => {
          void undo({ id }).then((result) => {
            const error = 'error' in result ? apiError(result.error) : null;
            if (error) toast.error(t(`error.${error.tag}`, { requestId: error.requestId }));
            else toast(t('undone'));
          });
        },
      },
    });
  };
}
