import type { OutputOf } from '@zaguan/contracts';
import type { todaysWork, Work } from '@zaguan/contracts/today';
import { useTranslation } from 'react-i18next';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { timeOf } from '../../../shared/time/format.ts';
import { useClinicTime } from '../accounts/index.ts';
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
    <p className="mt-1 flex flex-wrap items-center gap-2">
      {t(clinicians.length ? 'today.onlyClinicians' : 'today.noClinicians')}
      {clinicians.length > 0 && (!row.owner || row.owner.mine) && (
        <select
          aria-label={t('today.assignTo')}
          className="rounded-md border border-line-strong bg-panel px-2 py-1.5 font-semibold"
          value=""
          disabled={isLoading}
          onChange={(event) => event.target.value && void give(event.target.value)}
        >
          <option value="">{t('today.assignTo')}</option>
          {clinicians.map(({ accountId, name }) => (
            <option key={accountId} value={accountId}>
              {name}
            </option>
          ))}
        </select>
      )}
    </p>
  );
}
