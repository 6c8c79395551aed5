import type { OutputOf } from '@zaguan/contracts';
import type { invitationTimes, OpenedInvitation } from '@zaguan/contracts/invitations';
import { addDays } from '@zaguan/core/time';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type ApiError, apiError } from '../../../shared/api/contractApi.ts';
import { dateAt, formatDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { Notice } from '../../../shared/ui/Notice.tsx';
import { DayDoors, Loaded, TakenNotice } from '../booking/index.ts';
import { invitationApi } from './invitation.api.ts';
import type { Who } from './who.ts';

interface Wish {
  readonly visitTypeId: string;
  readonly siteId: string | null;
  readonly providerId: string | null;
  readonly part: 'morning' | 'afternoon' | 'evening' | null;
}

interface Wanted {
  readonly siteId: string;
  readonly timeZone: string;
  readonly providerId: string | null;
  readonly start: string;
}

interface Props {
  readonly who: Who;
  readonly of: OpenedInvitation;
  readonly phone: string;
  readonly onBooked: () => void;
}

/** Every day of the window with how many times it has, narrowed by what the patient wishes; a tap on a time asks once more. */
export function PickTime({ who, of, phone, onBooked }: Props) {
  const { t } = useTranslation();
  const [wish, setWish] = useState<Wish>({
    visitTypeId: of.types[0]?.id ?? '',
    siteId: null,
    providerId: null,
    part: null,
  });
  const [date, setDate] = useState<string | null>(null);
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const [tried, setTried] = useState<Wanted | null>(null);
  const [book, booking] = invitationApi.useBookByInvitationMutation();
  const query = invitationApi.useInvitationDaysQuery(
    { ...who, ...wish },
    { skip: wish.visitTypeId === '', refetchOnMountOrArgChange: true },
  );
  const refused = apiError(booking.error);
  const take = async (time: Wanted) => {
    const { siteId, providerId, start } = time;
    setTried(time);
    const { data } = await book({ ...who, visitTypeId: wish.visitTypeId, siteId, providerId, start });
    setWanted(null);
    if (data) onBooked();
    else {
      void query.refetch();
      window.scrollTo({ top: 0 });
    }
  };
  // What it was for is offered no more.
  if (!of.types.length) return <Notice tone="warning">{t('invitation.nothingLeft', { phone })}</Notice>;
  if (booking.data) return <Done of={booking.data} language={who.language} />;
  if (wanted)
    return (
      <Sure
        wanted={wanted}
        of={of}
        providers={query.data?.providers ?? []}
        language={who.language}
        busy={booking.isLoading}
        onYes={() => void take(wanted)}
        onOther={() => setWanted(null)}
      />
    );
  return (
    <div className="flex flex-col gap-4">
      {refused && tried && <Refused error={refused} tried={tried} onTake={setWanted} />}
      <Wishes of={of} wish={wish} providers={query.data?.providers ?? []} onChange={setWish} />
      <Loaded query={query} rows={5}>
        {({ from, until, days }) =>
          days.length === 0 ? (
            <Notice tone="warning">
              {wish.siteId || wish.providerId || wish.part
                ? t('invitation.nothing')
                : t('invitation.nothingLeft', { phone })}
            </Notice>
          ) : (
            <DayDoors
              days={everyDay(from, until, days)}
              chosen={date}
              language={who.language}
              onChoose={setDate}
              times={date && <Times who={who} wish={wish} of={of} date={date} onPick={setWanted} />}
            />
          )
        }
      </Loaded>
    </div>
  );
}

/** The days without a time too: nothing of the window is hidden. */
function everyDay(from: string, until: string, days: readonly { date: string; starts: number }[]) {
  const starts = new Map(days.map((day) => [day.date, day.starts]));
  const all: { date: string; starts: number }[] = [];
  for (let date = from; date <= until; date = addDays(date, 1)) all.push({ date, starts: starts.get(date) ?? 0 });
  return all;
}

interface WishesProps {
  readonly of: OpenedInvitation;
  readonly wish: Wish;
  readonly providers: readonly { id: string; name: string }[];
  readonly onChange: (wish: Wish) => void;
}

/** What there is to choose from; where there is one only, nothing is asked. */
function Wishes({ of, wish, providers, onChange }: WishesProps) {
  const { t } = useTranslation();
  const choice = (label: string, value: string | null, set: (value: string) => void, options: ReactNode) => (
    <label className="flex flex-col gap-1 font-bold">
      {label}
      <select
        className="min-h-11 rounded-md border border-line-strong bg-panel px-2 font-normal"
        value={value ?? ''}
        onChange={(event) => set(event.target.value)}
      >
        {options}
      </select>
    </label>
  );
  const named = ({ id, name }: { id: string; name: string }) => (
    <option key={id} value={id}>
      {name}
    </option>
  );
  return (
    <div className="grid grid-cols-2 gap-3 [&>:first-child:last-child]:col-span-2">
      {of.types.length > 1 &&
        choice(
          t('invitation.what'),
          wish.visitTypeId,
          (visitTypeId) => onChange({ ...wish, visitTypeId, providerId: null }),
          of.types.map(({ id, name, minutes }) =>
            named({ id, name: `${name}, ${t('invitation.minutes', { count: minutes })}` }),
          ),
        )}
      {of.sites.length > 1 &&
        choice(
          t('invitation.where'),
          wish.siteId,
          (siteId) => onChange({ ...wish, siteId: siteId || null }),
          <>
            <option value="">{t('invitation.anywhere')}</option>
            {of.sites.map(named)}
          </>,
        )}
      {providers.length > 1 &&
        choice(
          t('invitation.who'),
          wish.providerId,
          (providerId) => onChange({ ...wish, providerId: providerId || null }),
          <>
            <option value="">{t('invitation.anyone')}</option>
            {providers.map(named)}
          </>,
        )}
      {choice(
        t('invitation.time'),
        wish.part,
        (part) => onChange({ ...wish, part: (part || null) as Wish['part'] }),
        <>
          <option value="">{t('invitation.anyTime')}</option>
          {(['morning', 'afternoon', 'evening'] as const).map((part) =>
            named({ id: part, name: t(`invitation.part.${part}`) }),
          )}
        </>,
      )}
    </div>
  );
}

type Lane = OutputOf<typeof invitationTimes>['lanes'][number];

interface TimesProps {
  readonly who: Who;
  readonly wish: Wish;
  readonly of: OpenedInvitation;
  readonly date: string;
  readonly onPick: (wanted: Wanted) => void;
}

function Times({ who, wish, of, date, onPick }: TimesProps) {
  const { t } = useTranslation();
  const query = invitationApi.useInvitationTimesQuery({ ...who, ...wish, date }, { refetchOnMountOrArgChange: true });
  const days = invitationApi.useInvitationDaysQuery({ ...who, ...wish });
  const nameOf = (id: string | null) => days.data?.providers.find((provider) => provider.id === id)?.name;
  const heading = ({ siteId, providerId }: Lane) =>
    [of.sites.length > 1 && of.sites.find(({ id }) => id === siteId)?.name, nameOf(providerId)]
      .filter(Boolean)
      .join(' · ');
  return (
    <Loaded query={query} rows={2}>
      {({ lanes }) => (
        <div data-times={date} className="flex flex-col gap-3 rounded-md border border-line-strong bg-panel p-3">
          <h2 className="font-bold">{formatDate(date, who.language)}</h2>
          {lanes.length === 0 && <p>{t('when.none')}</p>}
          {lanes.map((lane) => (
            <section key={`${lane.siteId} ${lane.providerId}`}>
              {heading(lane) && <h3 className="mb-2">{heading(lane)}</h3>}
              <div className="grid grid-cols-3 gap-2">
                {lane.starts.map((start) => (
                  <Button
                    key={start}
                    look="time"
                    data-start={start}
                    className="min-h-11 px-1"
                    onClick={() =>
                      onPick({ siteId: lane.siteId, timeZone: lane.timeZone, providerId: lane.providerId, start })
                    }
                  >
                    {timeOf(start, lane.timeZone, who.language)}
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

interface SureProps {
  readonly wanted: Wanted;
  readonly of: OpenedInvitation;
  readonly providers: readonly { id: string; name: string }[];
  readonly language: Who['language'];
  readonly busy: boolean;
  readonly onYes: () => void;
  readonly onOther: () => void;
}

/** The time once more before it is booked: one tap beside it would be a visit. */
function Sure({ wanted, of, providers, language, busy, onYes, onOther }: SureProps) {
  const { t } = useTranslation();
  const site = of.sites.find(({ id }) => id === wanted.siteId);
  const provider = providers.find(({ id }) => id === wanted.providerId);
  return (
    <section className="flex flex-col gap-3 rounded-md border border-accent bg-panel p-4" data-sure>
      <h2 className="text-lg font-bold">{t('invitation.sure')}</h2>
      <p className="text-lg">
        {formatDate(dateAt(wanted.start, wanted.timeZone), language)}, {timeOf(wanted.start, wanted.timeZone, language)}
      </p>
      <p>{[provider?.name, site?.name, site?.address].filter(Boolean).join(' · ')}</p>
      <Button look="accent" className="min-h-12" disabled={busy} onClick={onYes}>
        {t('invitation.yes')}
      </Button>
      <Button className="min-h-12" disabled={busy} onClick={onOther}>
        {t('invitation.other')}
      </Button>
    </section>
  );
}

type Booked = NonNullable<ReturnType<typeof invitationApi.useBookByInvitationMutation>[1]['data']>;

function Done({ of, language }: { of: Booked; language: Who['language'] }) {
  const { t } = useTranslation();
  return (
    <section className="flex flex-col gap-3" data-booked>
      <Notice tone="success" live="polite">
        <p className="text-lg font-bold">{t('invitation.done')}</p>
        <p>
          {formatDate(dateAt(of.start, of.timeZone), language)}, {timeOf(of.start, of.timeZone, language)}
        </p>
        <p>{[of.provider, of.site, of.address].filter(Boolean).join(' · ')}</p>
      </Notice>
      <a
        className="inline-flex min-h-12 items-center justify-center rounded-md bg-accent font-semibold text-on-fill"
        href={of.link}
      >
        {t('invitation.toVisit')}
      </a>
      {of.usesLeft > 0 && (
        <Button className="min-h-12" onClick={() => window.location.reload()}>
          {t('invitation.again')}
        </Button>
      )}
    </section>
  );
}

interface RefusedProps {
  readonly error: ApiError;
  readonly tried: Wanted;
  readonly onTake: (wanted: Wanted) => void;
}

/** Somebody was faster: other times at the same site, to take with one tap; or it is of no use any more. */
function Refused({ error, tried, onTake }: RefusedProps) {
  const { t } = useTranslation();
  if (error.tag === 'InvitationOver')
    return <Notice tone="danger">{t(`invitation.over.${String(error.facts.over) as 'used'}`)}</Notice>;
  const { siteId, timeZone } = tried;
  return (
    <TakenNotice
      error={error}
      timeZone={timeZone}
      onTake={(start, providerId) => onTake({ siteId, timeZone, providerId, start })}
    />
  );
}
