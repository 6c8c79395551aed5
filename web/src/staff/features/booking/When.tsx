import type { OutputOf } from '@zaguan/contracts';
import type { proposeAtDesk } from '@zaguan/contracts/desk';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { dateAt, formatDate, shortDate, timeOf, zoneShort } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { CONTROL } from '../../../shared/ui/Field.tsx';
import { QueryFrame } from '../../shell/QueryFrame.tsx';
import { bookingApi } from './booking.api.ts';
import type { Bounds, ChosenTime, Flow, Wanted } from './flow.ts';
import { useNames } from './useNames.ts';

interface Props {
  readonly flow: Flow;
  readonly wanted: Wanted;
  /** Where the best times are looked for. */
  readonly bounds: Bounds;
  /** Nothing above it moves it any more: what is pressed must not slip from under the pointer. */
  readonly isSettled: boolean;
  /** They stand there. */
  readonly onProposed: () => void;
  readonly onChoose: (time: ChosenTime) => void;
}

/** When: the best three times, or any of a day. */
export function When({ flow, wanted, bounds, isSettled, onProposed, onChoose }: Props) {
  const { t } = useTranslation();
  const [isAll, setAll] = useState(false);
  const query = bookingApi.useProposeQuery({ ...wanted, flowId: flow.flowId, ...bounds } as never);
  const isProposed = query.currentData !== undefined;
  useEffect(() => {
    if (isProposed) onProposed();
  }, [isProposed, onProposed]);
  // They are asked for at once, whatever stands above is waited for.
  if (!isSettled) return null;
  return (
    <section aria-label={t('book.when')} className="flex flex-col gap-1.5">
      <h3 className="font-semibold">{t('book.when')}</h3>
      {query.currentData ? (
        <Proposals proposals={query.currentData.proposals} chosen={flow.time} onChoose={onChoose} />
      ) : (
        <QueryFrame query={query} bars={3} />
      )}
      {isAll ? (
        <TimesOfDay flowId={flow.flowId} time={flow.time} wanted={wanted} from={bounds.from} onChoose={onChoose} />
      ) : (
        <Button look="plain" className="self-start underline" onClick={() => setAll(true)}>
          {t('book.others')}
        </Button>
      )}
    </section>
  );
}

const isSame = (a: ChosenTime | null, b: ChosenTime) =>
  a !== null && a.siteId === b.siteId && a.providerId === b.providerId && a.start === b.start;

function Proposals({
  proposals,
  chosen,
  onChoose,
}: {
  proposals: OutputOf<typeof proposeAtDesk>['proposals'];
  chosen: ChosenTime | null;
  onChoose: (time: ChosenTime) => void;
}) {
  const { t } = useTranslation();
  const { clinic, zoneOf, placeOf } = useNames();
  if (!proposals.length) return <p>{t('book.noTimes')}</p>;
  return (
    <ul className="flex flex-col gap-1.5">
      {proposals.map(({ siteId, providerId, start, date, why }, i) => {
        const time = { siteId, providerId, start };
        const isChosen = isSame(chosen, time);
        return (
          <li key={`${siteId} ${providerId} ${start}`}>
            <button
              type="button"
              data-proposal={i + 1}
              aria-pressed={isChosen}
              className={`flex w-full items-baseline gap-2 rounded-md border px-3 py-2 text-left ${isChosen ? 'border-accent bg-accent-subtle' : 'border-accent bg-panel hover:bg-accent-subtle'}`}
              onClick={() => onChoose(time)}
            >
              <span className="min-w-0 flex-1">
                <b className="block">
                  {shortDate(date)}, {timeOf(start, zoneOf(siteId))}{' '}
                  {zoneOf(siteId) !== clinic?.sites[0]?.timeZone && zoneShort(zoneOf(siteId))}
                </b>
                <span className={isChosen ? 'text-foreground' : 'text-muted'}>
                  {placeOf(time)} · {why.map((reason) => t(`book.why.${reason}`)).join('; ')}
                </span>
              </span>
              <kbd className="rounded-sm border border-line-strong px-1.5 text-sm">{i + 1}</kbd>
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** Every time of one day at one site, by provider. */
export function TimesOfDay({
  flowId,
  time,
  wanted,
  from,
  beside = [],
  onChoose,
}: {
  flowId: string;
  /** What is chosen now. */
  time: ChosenTime | null;
  wanted: Wanted;
  from: string;
  /** Other visits of the same booking. */
  beside?: readonly (Wanted & ChosenTime)[];
  onChoose: (time: ChosenTime) => void;
}) {
  const { t } = useTranslation();
  const { clinic, zoneOf, placeOf } = useNames();
  const [asked, setAsked] = useState(() => ({
    siteId: time?.siteId ?? clinic?.sites[0]?.id ?? '',
    date: time ? dateAt(time.start, zoneOf(time.siteId)) : from,
  }));
  const query = bookingApi.useTimesOfDayQuery({ ...wanted, flowId, beside, ...asked } as never, {
    skip: !asked.siteId,
  });
  const times = query.currentData?.times;
  const zone = zoneOf(asked.siteId);
  return (
    <div className="flex flex-col gap-2">
      <div className="flex gap-2">
        <input
          type="date"
          aria-label={t('book.day')}
          className={CONTROL}
          value={asked.date}
          onChange={(event) => event.target.value && setAsked({ ...asked, date: event.target.value })}
        />
        <select
          aria-label={t('book.site')}
          className={CONTROL}
          value={asked.siteId}
          onChange={(event) => setAsked({ ...asked, siteId: event.target.value })}
        >
          {clinic?.sites.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </div>
      {!times && <QueryFrame query={query} bars={2} />}
      {times?.length === 0 && <p>{t('book.noneThatDay', { date: formatDate(asked.date) })}</p>}
      {[...new Set(times?.map(({ providerId }) => providerId))].map((providerId) => (
        <div key={providerId ?? ''}>
          <p className="text-muted">{placeOf({ ...asked, providerId, start: '' })}</p>
          <div className="flex flex-wrap gap-1">
            {times
              ?.filter((each) => each.providerId === providerId)
              .map(({ start }) => (
                <Button
                  key={start}
                  look="time"
                  className="px-2 py-1"
                  data-time={start}
                  aria-pressed={isSame(time, { siteId: asked.siteId, providerId, start })}
                  onClick={() => onChoose({ siteId: asked.siteId, providerId, start })}
                >
                  {timeOf(start, zone)}
                </Button>
              ))}
          </div>
        </div>
      ))}
    </div>
  );
}
