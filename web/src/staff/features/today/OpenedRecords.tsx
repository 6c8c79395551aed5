import type { OutputOf } from '@zaguan/contracts';
import type { todaysWork } from '@zaguan/contracts/today';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { apiError } from '../../../shared/api/contractApi.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { useClinicTime } from '../accounts/index.ts';
import { todayApi } from './today.api.ts';

/** Who opened a restricted record, when and why, until somebody who may restrict records has seen it. */
export function OpenedRecords({ rows }: { rows: OutputOf<typeof todaysWork>['opened'] }) {
  const { t } = useTranslation();
  const { write } = useClinicTime();
  const [see] = todayApi.useSeeOpeningMutation();
  if (!rows.length) return null;
  const title = t('today.opened', { count: rows.length });
  const onSeen = async (id: string) => {
    const refused = apiError((await see({ id })).error);
    if (refused) toast.error(t(`error.${refused.tag}`, { requestId: refused.requestId }));
  };
  return (
    <section aria-label={title}>
      <h2 className="mb-2 font-bold text-warning">{title}</h2>
      <ul className="flex flex-col gap-2">
        {rows.map(({ id, patientId, recordNumber, by, reason, at }) => (
          <li
            key={id}
            data-opened={id}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 rounded-md border border-line-strong bg-panel px-4 py-2"
          >
            <span className="min-w-0 flex-1">
              <b>{by}</b>{' '}
              <Link className="underline" to={`/patients/${patientId}`}>
                {t('today.openedRecord', { number: recordNumber })}
              </Link>
              , {write(at)}
              <span className="block">“{reason}”</span>
            </span>
            <Button onClick={() => void onSeen(id)}>{t('today.openedSeen')}</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
