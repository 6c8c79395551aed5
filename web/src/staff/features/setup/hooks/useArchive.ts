import { useTranslation } from 'react-i18next';
import { useSayRefused } from '../../../shell/useSayRefused.ts';
import { setupApi } from '../setup.api.ts';
import { useUndoToast } from '../../undo/index.ts';

/** Archives a plan, a register or a template, or brings it back; says why where it is refused. */
export function useArchive(
  kind: 'recall-plan' | 'register' | 'invitation-template',
): (id: string, active: boolean) => Promise<void> {
  const { t } = useTranslation();
  const undo = useUndoToast();
  const sayRefused = useSayRefused();
  const [archive] = setupApi.useArchiveRecordsMutation();
  return async (id, active) => {
    const { data, error } = await archive({ kind, ids: [id], active });
    sayRefused(error);
    if (data) undo(t(active ? 'recalls.restoredDone' : 'recalls.archivedDone'), data.undo.id);
  };
}
