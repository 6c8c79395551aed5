import type { OutputOf } from '@zaguan/contracts';
import type { staffClinic } from '@zaguan/contracts/clinic';
import type { FoundTime, TimesFound } from '@zaguan/contracts/openings';
import { Tabs } from 'radix-ui';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { formatDate, shiftDate, shortDate, timeOf, weekdayNames, zoneShort } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { findText, useMayBook } from '../../booking/index.ts';
import { textOfPlaceAndTime } from '../placeAndTime.ts';
import { type TypedSearch, VIEWS, type View } from './typed.ts';

type Clinic = OutputOf<typeof staffClinic>;

interface Props {
  readonly clinic: Clinic;
  readonly found: TimesFound;
  readonly typed: TypedSearch;
  readonly onGiveUp: (criteriaList: readonly string[]) => void;
  readonly onDay: (date: string) => void;
  readonly onWhyNot: () => void;
  /** Which of the views is open. */
  readonly view: View;
  readonly onView: (view: View) => void;
}

const TAB =
  'rounded-t-md border border-b-0 border-line px-3 py-1.5 font-semibold data-[state=active]:bg-panel data-[state=active]:text-accent data-[state=inactive]:bg-surface-deep';

/** What was found: by time, the first with each, the days in a calendar; or what would have to be given up. */
export function Results(props: Props) {
  const { clinic, found } = props;
  const { t } = useTranslation();
  if (!found.times.length && !found.together.length) return <NothingFound {...props} />;
  if (found.together.length) return <Together {...props} />;
  return (
    <Tabs.Root value={props.view} onValueChange={(view) => props.onView(view as View)}>
      <Tabs.List className="flex gap-1" aria-label={t('find.results')}>
        {VIEWS.map((tab) => (
          <Tabs.Trigger key={tab} value={tab} className={TAB}>
            {t(`find.tab.${tab}`)}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value="times" className="border-t border-line pt-3">
        <ByTime {...props} />
      </Tabs.Content>
      <Tabs.Content value="providers" className="border-t border-line pt-3">
        <ul className="max-w-2xl">
          {found.perProvider.map((time) => (
            <li key={`${time.siteId}${time.providerId}`} className="border-b border-line py-1.5">
              <TimeLine clinic={clinic} time={time} typed={props.typed} />
            </li>
          ))}
        </ul>
      </Tabs.Content>
      <Tabs.Content value="calendar" className="border-t border-line pt-3">
        <Calendar {...props} />
      </Tabs.Content>
    </Tabs.Root>
  );
}

/** The fewest criteria to give up, and what each would bring. */
function NothingFound({ clinic, found, onGiveUp, onWhyNot }: Props) {
  const { t } = useTranslation();
  return (
    <div className="flex max-w-xl flex-col gap-3" data-testid="nothing-found">
      <p className="font-bold">{t(found.gaveUp ? 'find.gaveUp' : 'find.nothing')}</p>
      {found.relaxations.length > 0 && (
        <>
          <p>{t('find.giveUp')}</p>
          <ul className="flex flex-col gap-2">
            {found.relaxations.map(({ giveUp, first }) => (
              <li key={giveUp.join()}>
                <Button look="time" className="whitespace-normal" onClick={() => onGiveUp(giveUp)}>
                  {giveUp.map((criterion) => t(`find.criterion.${criterion}`)).join(t('find.and'))}:{' '}
                  {formatWhen(clinic, first)}
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
      <Button className="self-start" onClick={onWhyNot}>
        {t('whyNot.title')}
      </Button>
    </div>
  );
}

/** Times at which everybody asked for can come. */
function Together({ clinic, found, typed }: Pick<Props, 'clinic' | 'found' | 'typed'>) {
  const { t } = useTranslation();
  const mayBook = useMayBook();
  return (
    <div className="flex max-w-3xl flex-col gap-3">
      {found.gaveUp && <p className="text-warning">{t('find.gaveUpMore')}</p>}
      {found.together.map((times) => (
        <section
          key={times.map(({ start, providerId }) => start + providerId).join()}
          data-together=""
          className="rounded-md border border-line bg-panel px-3 py-2"
        >
          <h2 className="flex items-baseline gap-3 font-bold">
            {formatWhen(clinic, times[0])}
            {mayBook && bookingOfAll(typed, times) && (
              <Link to={bookingOfAll(typed, times) ?? ''} className="ml-auto font-semibold text-accent underline">
                {t('find.bookAll', { count: times.length })}
              </Link>
            )}
          </h2>
          <ol>
            {times.map((time, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: two people may come at one time
              <li key={i} className="border-t border-line py-1">
                <TimeLine clinic={clinic} time={time} typed={null} />
              </li>
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}

function siteOf(clinic: Clinic, time: FoundTime) {
  return clinic.sites.find(({ id }) => id === time.siteId);
}

function formatWhen(clinic: Clinic, time: FoundTime): string {
  return `${shortDate(time.date)}, ${timeOf(time.start, siteOf(clinic, time)?.timeZone ?? 'UTC')}`;
}

/** That time in the Daybook: at its site, with what speaks for and against it. */
function daybookOf({ date, siteId, providerId, start }: FoundTime): string {
  const shown = new URLSearchParams({ site: siteId });
  if (providerId) shown.set('why', textOfPlaceAndTime({ siteId, resourceId: providerId, start }));
  return `/daybook/${date}?${shown}`;
}

/** That time being booked, for whom and what it was looked for. */
function bookingOfOne({ date, siteId, providerId, start, visitTypeId }: FoundTime, { members }: TypedSearch): string {
  const asked = new URLSearchParams({
    site: siteId,
    book: textOfPlaceAndTime({ siteId, resourceId: providerId ?? '', start }),
    type: visitTypeId,
  });
  const [{ patientId }] = members;
  if (patientId) asked.set('for', patientId);
  return `/daybook/${date}?${asked}`;
}

/** Those times being booked together; `null` where it is not said for whom: several people have names first. */
function bookingOfAll({ members, how, repeats, ...typed }: TypedSearch, times: readonly FoundTime[]): string | null {
  const [first, ...others] = members;
  if (others.length && members.some(({ patientId }) => !patientId)) return null;
  const { everyWeeks, count, toleranceDays, sameProvider } = typed;
  const found = findText({
    how,
    others: others.map(({ patientId, visitTypeId }) => ({ patientId: patientId ?? '', visitTypeId })),
    repeat: repeats && !others.length ? { everyWeeks, count, toleranceDays, sameProvider } : null,
    group: times.map(({ visitTypeId, siteId, providerId, start }, i) => ({
      ...{ visitTypeId, siteId, providerId, start },
      patientId: i > 0 && others.length ? (members[i]?.patientId ?? null) : null,
    })),
  });
  const asked = new URLSearchParams({ site: times[0].siteId, book: 'new', type: first.visitTypeId, found });
  if (first.patientId) asked.set('for', first.patientId);
  return `/daybook/${times[0].date}?${asked}`;
}

/** Where a time leads: to its booking, or for who may not book to what speaks for and against it. */
function useWayTo(typed: TypedSearch | null): (time: FoundTime) => string {
  const mayBook = useMayBook();
  return (time) => (mayBook && typed?.channel === 'desk' ? bookingOfOne(time, typed) : daybookOf(time));
}

/** One time: when, what, with whom, where; the way to that day in the Daybook. */
function TimeLine({ clinic, time, typed }: { clinic: Clinic; time: FoundTime; typed: TypedSearch | null }) {
  const wayTo = useWayTo(typed);
  const site = siteOf(clinic, time);
  const who = clinic.people.find(({ id }) => id === time.providerId)?.name;
  const what = clinic.visitTypes.find(({ id }) => id === time.visitTypeId)?.name;
  return (
    <Link to={wayTo(time)} className="flex gap-3 hover:underline">
      <span className="w-[190px] shrink-0 font-semibold text-accent">{formatWhen(clinic, time)}</span>
      <span>{[what, who, site && `${site.name} (${zoneShort(site.timeZone)})`].filter(Boolean).join(' · ')}</span>
    </Link>
  );
}

function ByTime({ clinic, found: { times, more }, typed }: Pick<Props, 'clinic' | 'found' | 'typed'>) {
  const { t } = useTranslation();
  const wayTo = useWayTo(typed);
  const dates = [...new Set(times.map(({ date }) => date))];
  const nameOf = (id: string | null) => clinic.people.find((person) => person.id === id)?.shortName ?? '';
  return (
    <div className="flex flex-col gap-3">
      {dates.map((date) => (
        <section key={date} aria-label={formatDate(date)}>
          <h2 className="mb-1 font-bold">{formatDate(date)}</h2>
          <ul className="flex flex-wrap gap-1.5">
            {times
              .filter((time) => time.date === date)
              .map((time) => {
                const site = siteOf(clinic, time);
                return (
                  <li key={`${time.start}${time.siteId}${time.providerId}`}>
                    <Link
                      to={wayTo(time)}
                      data-found-time={time.start}
                      className="block rounded-md border border-accent bg-panel px-2.5 py-1 hover:bg-accent-subtle"
                    >
                      <span className="font-bold text-accent">{timeOf(time.start, site?.timeZone ?? 'UTC')}</span>{' '}
                      <span className="text-sm text-muted">{site && zoneShort(site.timeZone)}</span>
                      <span className="block text-sm text-muted">
                        {[nameOf(time.providerId), site?.name].filter(Boolean).join(', ')}
                      </span>
                    </Link>
                  </li>
                );
              })}
          </ul>
        </section>
      ))}
      {more && <p className="text-muted">{t('find.more')}</p>}
    </div>
  );
}

/** Every day of the window with how many start times it has: nothing is hidden behind a first page. */
function Calendar({ found, typed: { from, days }, onDay }: Props) {
  const { t } = useTranslation();
  const counts = new Map(found.counts.map(({ date, starts }) => [date, starts]));
  const monday = shiftDate(from, -((new Date(`${from}T12:00:00Z`).getUTCDay() + 6) % 7));
  const last = shiftDate(from, days - 1);
  const weeks: string[][] = [];
  for (let start = monday; start <= last; start = shiftDate(start, 7))
    weeks.push(Array.from({ length: 7 }, (_, i) => shiftDate(start, i)));
  return (
    <table className="w-full max-w-3xl border-collapse">
      <thead>
        <tr>
          {weekdayNames('en', 'short').map((name) => (
            <th key={name} scope="col" className="pb-1 text-left text-muted">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {weeks.map((week) => (
          <tr key={week[0]}>
            {week.map((date) => {
              const starts = counts.get(date) ?? 0;
              const asked = date >= from && date <= last;
              return (
                <td key={date} className="h-12 border border-line p-0 align-top">
                  {asked && starts > 0 ? (
                    <button
                      type="button"
                      className="h-full w-full px-2 py-1 text-left hover:bg-accent-subtle"
                      onClick={() => onDay(date)}
                    >
                      <span className="block text-sm text-muted">{shortDate(date).replace(/^\w+, /, '')}</span>
                      <span className="font-bold text-accent">{t('find.starts', { count: starts })}</span>
                    </button>
                  ) : (
                    <span
                      className={`block px-2 py-1 text-sm ${asked ? 'text-muted' : 'text-transparent'}`}
                      aria-hidden={!asked}
                    >
                      {asked ? shortDate(date).replace(/^\w+, /, '') : '·'}
                    </span>
                  )}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
