import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { apiError } from '../../../shared/api/contractApi.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { timeOf } from '../../../shared/time/format.ts';
import { accountsApi } from '../accounts/index.ts';
import { bookingApi } from './booking.api.ts';
import type { ChosenTime, Wanted } from './flow.ts';
import { Nearest } from './Nearest.tsx';

/** Keeps the chosen times while the panel is open; other desks see who books. */
export function Held({
  flowId,
  asked,
  onChoose,
}: {
  flowId: string;
  asked: readonly (Wanted & ChosenTime)[];
  /** Another time for one of them, by its place. */
  onChoose: (at: number, time: ChosenTime) => void;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const zone = clinic?.sites[0]?.timeZone ?? 'UTC';
  const [hold, { data, error }] = bookingApi.useHoldMutation();
  const [extend, extended] = bookingApi.useExtendMutation();
  const [release] = bookingApi.useReleaseMutation();
  const what = JSON.stringify(asked);
  useEffect(() => {
    void hold({ flowId, visits: JSON.parse(what) } as never);
  }, [hold, flowId, what]);
  useEffect(() => () => void release({ flowId } as never), [release, flowId]);
  const refused = apiError(extended.error) ?? apiError(error);
  const kept = (extended.data ?? data)?.hold;
  if (refused) return <Refused refused={refused} asked={asked} onChoose={onChoose} />;
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

/** Why it can't be had, of which visit, and other times for that one. */
export function Refused({
  refused,
  asked,
  tone = 'warning',
  onChoose,
}: {
  refused: NonNullable<ReturnType<typeof apiError>>;
  asked: readonly ChosenTime[];
  tone?: 'warning' | 'danger';
  onChoose: (at: number, time: ChosenTime) => void;
}) {
  const { t } = useTranslation();
  const said = refused.facts?.visit;
  const at = typeof said === 'number' && said < asked.length ? said : 0;
  return (
    <Notice tone={tone} live="assertive">
      {asked.length > 1 && <p className="font-bold">{t('book.ofVisit', { number: at + 1 })}</p>}
      <p>{t(`error.${refused.tag}`, { ...refused.facts, requestId: refused.requestId })}</p>
      {asked[at] && (
        <Nearest times={refused.nearest ?? []} siteId={asked[at].siteId} onChoose={(time) => onChoose(at, time)} />
      )}
    </Notice>
  );
}
