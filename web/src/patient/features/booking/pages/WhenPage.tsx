import { useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { Navigate, useNavigate } from 'react-router';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, formatDate, dayAndMonth, shortDate, timeOf, formatZone } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { useAppDispatch, useAppSelector } from '../../../store.ts';
import { bookingApi } from '../booking.api.ts';
import { DayDoors } from '../components/DayDoors.tsx';
import { Loaded } from '../components/Loaded.tsx';
import { Step } from '../components/Step.tsx';
import { TakenNotice } from '../components/TakenNotice.tsx';
import { useHold } from '../hooks/useHold.ts';
import { useLanguage } from '../hooks/useLanguage.ts';
import { useTrail } from '../hooks/useTrail.ts';
import { usePaid } from '../hooks/usePaid.ts';
import { useRequestedTime } from '../hooks/useWanted.ts';
import { prepareProof } from '../proof.ts';
import { choices } from '../choices.slice.ts';

/** The whole booking window in sight: the first time free, then every day with its count, then a day's times. */
export function WhenPage() {
  const { t } = useTranslation();
  const language = useLanguage();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const requested = useRequestedTime();
  const trail = useTrail();
  const paid = usePaid();
  const date = useAppSelector((state) => state.choices.date);
  const { place, placing, error } = useHold();
  const query = bookingApi.useDaysQuery(requested ?? { siteId: '', visitTypeId: '', kind: 'new' }, {
    skip: !requested,
    refetchOnMountOrArgChange: true,
  });
  const timesRef = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (date) timesRef.current?.scrollIntoView({ block: 'nearest', behavior: 'smooth' });
  }, [date]);
  useEffect(prepareProof, []);
  if (!requested) return <Navigate to="/" replace />;

  const take = async (start: string, providerId: string | null) => {
    const { siteId, visitTypeId, kind } = requested;
    const result = await place({ siteId, visitTypeId, kind, providerId, start, ...paid });
    if (result.data) void navigate('/you');
    else window.scrollTo({ top: 0 });
  };
  const refused = apiError(error);
  return (
    <Step question={t('when.question')} trail={trail}>
      <Loaded query={query} rows={5}>
        {(window) => (
          <div className="flex flex-col gap-4">
            {refused && !placing && (
              <TakenNotice
                error={refused}
                timeZone={window.timeZone}
                onTake={(start, providerId) => void take(start, providerId)}
              />
            )}
            {window.first ? (
              <div className="flex items-center gap-3 rounded-md bg-accent-subtle px-4 py-3">
                <div className="flex-1">
                  <p className="text-muted">{t('when.first')}</p>
                  <p className="text-lg font-bold">
                    {shortDate(dateAt(window.first.start, window.timeZone), language)},{' '}
                    <span className="whitespace-nowrap">{timeOf(window.first.start, window.timeZone, language)}</span>
                  </p>
                </div>
                <Button
                  look="accent"
                  className="min-h-11 px-4"
                  disabled={placing}
                  onClick={() => window.first && void take(window.first.start, window.first.providerId)}
                >
                  {t('when.take')}
                </Button>
              </div>
            ) : (
              <Notice tone="warning">
                {t('when.noneAtAll', {
                  from: dayAndMonth(window.from, language),
                  until: dayAndMonth(window.until, language),
                })}
              </Notice>
            )}
            <div className="flex flex-wrap justify-between gap-x-4">
              <p className="font-bold">
                {t('when.span', {
                  from: dayAndMonth(window.from, language),
                  until: dayAndMonth(window.until, language),
                })}
              </p>
              <p>{t('when.daysWith', { count: window.days.filter((day) => day.starts > 0).length })}</p>
            </div>
            <DayDoors
              days={window.days}
              chosen={date}
              language={language}
              onChoose={(chosen) => dispatch(choices.actions.choseDate(chosen))}
              times={
                date && (
                  <div ref={timesRef}>
                    <DayTimes date={date} onTake={(start, providerId) => void take(start, providerId)} busy={placing} />
                  </div>
                )
              }
            />
            <p className="text-muted">{t('when.zone', { zone: formatZone(window.timeZone, language) })}</p>
          </div>
        )}
      </Loaded>
    </Step>
  );
}

function DayTimes({
  date,
  busy,
  onTake,
}: {
  date: string;
  busy: boolean;
  onTake: (start: string, providerId: string | null) => void;
}) {
  const language = useLanguage();
  const { t } = useTranslation();
  const requested = useRequestedTime();
  const times = bookingApi.useTimesQuery(
    { ...(requested ?? { siteId: '', visitTypeId: '', kind: 'new' }), date },
    { skip: !requested, refetchOnMountOrArgChange: true },
  );
  const providers = bookingApi.useProvidersQuery(
    {
      siteId: requested?.siteId ?? '',
      visitTypeId: requested?.visitTypeId ?? '',
      kind: requested?.kind ?? 'new',
      language,
    },
    { skip: !requested },
  );
  const nameOf = (id: string | null) => providers.data?.providers.find((provider) => provider.id === id)?.name;
  return (
    <Loaded query={times} rows={2}>
      {({ timeZone, lanes }) => (
        <div data-times={date} className="flex flex-col gap-3 rounded-md border border-line-strong bg-panel p-3">
          {lanes.length === 0 && <p>{t('when.none')}</p>}
          {lanes.map((lane) => (
            <section key={lane.providerId ?? 'anyone'}>
              <h2 className="mb-2 font-bold">
                {formatDate(date, language)}
                {nameOf(lane.providerId) && <span className="font-normal"> · {nameOf(lane.providerId)}</span>}
              </h2>
              <div className="grid grid-cols-3 gap-2">
                {lane.starts.map((start) => (
                  <Button
                    key={start}
                    look="time"
                    data-start={start}
                    className="min-h-11 px-1"
                    disabled={busy}
                    onClick={() => onTake(start, lane.providerId)}
                  >
                    {timeOf(start, timeZone, language)}
                  </Button>
                ))}
              </div>
            </section>
          ))}
        </div>
      )}
    </Loaded>
  );
}
