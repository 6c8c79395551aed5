import { type Role, scopeOf } from '@zaguan/contracts';
import type { DaybookDay, Plate } from '@zaguan/contracts/daybook';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { ArchMark } from '../../../../shared/arch/ArchMark.tsx';
import { timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { daybookApi } from '../daybook.api.ts';

/** A time that somebody keeps online while they type; the desk may give it back. */
export function HoldPanel({
  plate,
  site,
  role,
  onClose,
}: {
  plate: Plate;
  site: DaybookDay['sites'][number];
  role: Role;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const [release, { error, isLoading }] = daybookApi.useReleaseHoldMutation();
  const refused = apiError(error);
  const giveBack = async () => {
    const result = await release({ id: plate.id });
    if (result.data) onClose();
  };
  return (
    <div className="flex flex-col gap-3">
      <h2 className="flex items-center gap-1.5 text-xl leading-tight font-bold">
        <ArchMark shape="dotted" label="" size={18} />
        {plate.bookedBy ? t('visit.hold.atDesk', { name: plate.bookedBy }) : t('visit.hold.title')}
      </h2>
      <p>
        {timeOf(plate.start, site.timeZone)} to {timeOf(plate.end, site.timeZone)}, {site.name}
      </p>
      <p className="text-muted">{t(plate.bookedBy ? 'visit.hold.deskNote' : 'visit.hold.note')}</p>
      {refused && (
        <Notice tone="danger" live="assertive">
          {t(`error.${refused.tag}`, { requestId: refused.requestId })}
        </Notice>
      )}
      {scopeOf(role, 'appointment.cancel') !== 'no' && (
        <Button look="danger" className="self-start" disabled={isLoading} onClick={() => void giveBack()}>
          {t('visit.hold.release')}
        </Button>
      )}
    </div>
  );
}
