import type { Plate } from '@zaguan/contracts/daybook';
import { nextStatuses } from '@zaguan/core/visits';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useUndoToast } from '../../undo/index.ts';
import { daybookApi } from '../daybook.api.ts';

/** Through the day: confirmed, arrived, and so on; each can be undone. */
export function StatusActions({ plate, now }: { plate: Plate; now: string }) {
  const { t } = useTranslation();
  const toast = useUndoToast();
  const [setStatus, moved] = daybookApi.useSetStatusMutation();
  const [confirm, confirmed] = daybookApi.useConfirmVisitMutation();
  const refused = apiError(moved.error ?? confirmed.error);
  const busy = moved.isLoading || confirmed.isLoading;
  const move = async (to: Plate['status']) => {
    const { data } = await setStatus({ id: plate.id, to, version: plate.version });
    if (data) toast(t('visit.moved', { name: plate.name, status: t(`visit.status.${to}`) }), data.undo.id);
  };
  const toggle = async () => {
    const { data } = await confirm({ id: plate.id, confirmed: !plate.confirmed, version: plate.version });
    if (data)
      toast(t(data.confirmed ? 'visit.nowConfirmed' : 'visit.notConfirmed', { name: plate.name }), data.undo.id);
  };
  return (
    <>
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </Notice>
      )}
      <div className="flex flex-wrap gap-2">
        {nextStatuses(plate.status)
          // Checking in has its own questions, below.
          .filter((to) => !(plate.status === 'arrived' && to === 'checked-in'))
          .map((to, i) => (
            <Button
              key={to}
              look={i === 0 && to !== 'booked' ? 'primary' : 'quiet'}
              data-status-to={to}
              disabled={busy}
              onClick={() => void move(to)}
            >
              {t(`visit.act.${to}`)}
            </Button>
          ))}
        {plate.status === 'booked' && plate.end > now && (
          <Button data-confirm={!plate.confirmed} disabled={busy} onClick={() => void toggle()}>
            {t(plate.confirmed ? 'visit.unconfirm' : 'visit.confirm')}
          </Button>
        )}
      </div>
    </>
  );
}
