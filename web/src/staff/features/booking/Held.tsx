import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { timeOf } from '../../../shared/time/format.ts';
import { accountsApi } from '../accounts/index.ts';
import { bookingApi } from './booking.api.ts';
import { Nearest } from './Nearest.tsx';
import type { ChosenTime } from './useFlow.ts';
import type { Wanted } from './wanted.ts';

/** Keeps the chosen time while the panel is open; other desks see who books. */
export function Held({
  flowId,
  asked,
  onChoose,
}: {
  flowId: string;
  asked: Wanted & ChosenTime;
  onChoose: (time: ChosenTime) => void;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const zone = clinic?.sites[0]?.timeZone ?? 'UTC';
  const [hold, { data, error }] = bookingApi.useHoldMutation();
  const [extend, extended] = bookingApi.useExtendMutation();
  const [release] = bookingApi.useReleaseMutation();
  const what = JSON.stringify(asked);
  useEffect(() => {
    void hold({ flowId, visits: [JSON.parse(what)] } as never);
  }, [hold, flowId, what]);
  useEffect(() => () => void release({ flowId } as never), [release, flowId]);
  const refused = apiError(extended.error) ?? apiError(error);
  const kept = (extended.data ?? data)?.hold;
  if (refused)
    return (
      <Notice tone="warning" live="assertive">
        <p>{t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}</p>
        <Nearest times={refused.nearest ?? []} siteId={asked.siteId} onChoose={onChoose} />
      </Notice>
    );
  if (!kept) return null;
  return (
    <p className="flex flex-wrap items-baseline gap-2 text-muted" data-held>
      {t('book.held', { until: timeOf(kept.expiresAt, zone) })}
      <Button look="plain" className="px-1 py-0 underline" onClick={() => void extend({ flowId } as never)}>
        {t('book.longer')}
      </Button>
    </p>
  );
}
