import type { OutputOf } from '@zaguan/contracts';
import type { todaysWork, Work } from '@zaguan/contracts/today';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { timeOf } from '../../../shared/time/format.ts';
import { useClinicTime } from '../accounts/index.ts';
import { ActionMenu } from '../../shell/ActionMenu.tsx';
import { useUndoToast } from '../undo/index.ts';
import { todayApi } from './today.api.ts';

type Flag = Extract<Work, { kind: 'red-flag' }>;

/** Only a clinician may clear a red flag: says so, and gives it to one. It stays in sight until it is cleared. */
export function AssignFlag({ row, clinicians }: { row: Flag; clinicians: OutputOf<typeof todaysWork>['clinicians'] }) {
  const { t } = useTranslation();
  const { timeZone } = useClinicTime();
  const undo = useUndoToast();
  const [assignFlag, { isLoading }] = todayApi.useAssignFlagMutation();
  const give = async (accountId: string) => {
    const result = await assignFlag({ id: row.id, accountId });
    const refused = apiError(result.error);
    const name = clinicians.find((each) => each.accountId === accountId)?.name ?? '';
    if (refused) toast.error(t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId }));
    else if (result.data) undo(t('today.assignedTo', { name }), result.data.undo.id);
  };
  if (row.withClinicianUntil && row.owner)
    return (
      <p className="mt-1 font-semibold" data-with-clinician>
        {t('today.withClinician', {
          name: row.owner.name,
          until: timeOf(row.withClinicianUntil, row.visit?.timeZone ?? timeZone),
        })}
      </p>
    );
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      {t(clinicians.length ? 'today.onlyClinicians' : 'today.noClinicians')}
      {clinicians.length > 0 && row.mayAssign && (
        <ActionMenu
          words={t('today.assignTo')}
          options={clinicians.map(({ accountId, name }) => ({ value: accountId, label: name }))}
          disabled={isLoading}
          onChoose={(accountId) => void give(accountId)}
        />
      )}
    </div>
  );
}
