import type { OutputOf } from '@zaguan/contracts';
import type { daybookMonth } from '@zaguan/contracts/daybook';
import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate, useParams } from 'react-router';
import { dateAt, formatDate, monthOf, shiftDate, weekdayNames, weekOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { SelectField } from '../../../../shared/ui/inputs.tsx';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { useAddress } from '../../../shell/useAddress.ts';
import { useAppSelector } from '../../../store.ts';
import { accountsApi } from '../../accounts/index.ts';
import { daybookApi } from '../daybook.api.ts';
import { useDaybookKeys } from '../hooks/useDaybookKeys.ts';
import { useOwnSites } from '../hooks/useWhichSite.ts';
import { useDaybookView } from '../views/useDaybookView.ts';

type Day = OutputOf<typeof daybookMonth>['days'][number];

/** More days than any month has. */
const A_MONTH_AND_A_BIT = 32;
/** A calendar is drawn the same by every Lens. */
const NO_KEYS = {};

/** A month of a site as a calendar: what is booked, and of one visit type what is left to book. */
export function MonthPage() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const { month = '' } = useParams();
  const { asked, set } = useAddress();
  const { data: clinic, error: clinicError } = accountsApi.useClinicQuery({});
  const kept = useAppSelector((state) => state.prefs.siteId);
  const sites = useOwnSites(clinic);
  const siteId = [asked.get('site'), kept].find((id) => sites.some((site) => site.id === id)) ?? sites[0]?.id;
  const type = clinic?.visitTypes.find(({ id }) => id === asked.get('type'));
  const kind = asked.get('kind') === 'new' ? 'new' : 'established';
  const query = daybookApi.useMonthQuery(
    { month, siteId: siteId as never, kind, ...(type && { visitTypeId: type.id as never }) },
    { skip: !siteId },
  );
  const found = query.currentData;
  const first = `${month}-01`;
  const go = (to: string) => void navigate(`/daybook/month/${to}${asked.size ? `?${asked}` : ''}`);
  const back = shiftDate(first, -1).slice(0, 7);
  const on = shiftDate(first, A_MONTH_AND_A_BIT).slice(0, 7);
  const thisMonth = (clinic && dateAt(clinic.now, clinic.sites[0]?.timeZone ?? 'UTC').slice(0, 7)) ?? month;
  const acts = { back: () => go(back), on: () => go(on), today: () => go(thisMonth) };
  const { settings } = useDaybookView();
  useDaybookKeys({ ...acts, book: () => undefined }, settings, NO_KEYS);
  const title = `${monthOf(first)} ${month.slice(0, 4)}`;
  useEffect(() => {
    document.title = `${title} · ${t('daybook.title')}`;
  }, [title, t]);
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-y-auto">
      <header className="flex flex-wrap items-end gap-2 border-b border-line bg-surface px-3 py-2">
        <Button aria-label={t('month.previous')} onClick={acts.back}>
          ‹
        </Button>
        <h1 className="mb-1 text-xl font-bold" aria-live="polite">
          {title}
        </h1>
        <Button aria-label={t('month.next')} onClick={acts.on}>
          ›
        </Button>
        <Button onClick={acts.today} disabled={month === thisMonth}>
          {t('month.thisMonth')}
        </Button>
        <SelectField
          label={t('month.site')}
          value={siteId ?? ''}
          onChange={(event) => set({ site: event.target.value })}
          options={sites}
        />
        <SelectField
          label={t('month.type')}
          value={type?.id ?? ''}
          none={t('month.allTypes')}
          onChange={(event) => set({ type: event.target.value || null })}
          options={clinic?.visitTypes ?? []}
        />
        {type && (
          <SelectField
            label={t('month.kind')}
            value={kind}
            onChange={(event) => set({ kind: event.target.value === 'new' ? 'new' : null })}
            options={[
              { id: 'established', name: t('month.established') },
              { id: 'new', name: t('month.newPatients') },
            ]}
          />
        )}
      </header>
      {found ? (
        <div className="p-3">
          <Calendar days={found.days} today={found.today} siteId={siteId ?? ''} />
          <p className="mt-2 text-muted">{type ? t('month.hint') : t('month.chooseType')}</p>
        </div>
      ) : (
        <QueryFrame query={{ ...query, error: query.error ?? clinicError }} skeleton={<Skeleton />} />
      )}
    </main>
  );
}

/** Weeks under each other, as the clinic's weeks begin. */
function Calendar({ days, today, siteId }: { days: readonly Day[]; today: string; siteId: string }) {
  const lead = (Date.parse(days[0].date) - Date.parse(weekOf(days[0].date))) / 86_400_000;
  const cells: (Day | null)[] = [...Array.from({ length: lead }, () => null), ...days];
  const weeks = Array.from({ length: Math.ceil(cells.length / 7) }, (_, n) => cells.slice(7 * n, 7 * n + 7));
  return (
    <table className="w-full table-fixed border-collapse" data-month>
      <thead>
        <tr>
          {weekdayNames().map((name) => (
            <th key={name} className="border border-line bg-highlight px-2 py-1 text-left text-sm font-bold">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {weeks.map((week) => (
          <tr key={week.find((day) => day)?.date} className="align-top">
            {Array.from({ length: 7 }, (_, n) => {
              const day = week[n];
              return day ? (
                <DayCell key={day.date} day={day} isToday={day.date === today} siteId={siteId} />
              ) : (
                // biome-ignore lint/suspicious/noArrayIndexKey: a place of a week that no day of the month has
                <td key={n} className="border border-line bg-surface-deep" />
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** One date: its whole square leads to the day. */
function DayCell({ day, isToday, siteId }: { day: Day; isToday: boolean; siteId: string }) {
  const { t } = useTranslation();
  const { date, closed, booked, left } = day;
  const leftWords = left === null ? '' : left > 0 ? t('month.left', { count: left }) : closed ? '' : t('month.none');
  return (
    <td className={`h-[88px] border border-line p-0 ${closed ? 'bg-surface-deep' : 'bg-panel'}`}>
      <Link
        to={`/daybook/${date}?site=${siteId}`}
        aria-current={isToday ? 'date' : undefined}
        data-month-day={date}
        data-booked={booked}
        data-left={left ?? ''}
        className="flex h-full flex-col gap-0.5 p-1.5 hover:bg-surface"
      >
        <span className="sr-only">{formatDate(date)}</span>
        <span
          aria-hidden="true"
          className={`self-start rounded-sm px-1 font-bold ${isToday ? 'bg-primary text-on-fill' : 'text-foreground'}`}
        >
          {Number(date.slice(8))}
        </span>
        {closed && <span className="text-sm text-muted">{t('month.closed')}</span>}
        {booked > 0 && <span className="text-sm">{t('month.booked', { count: booked })}</span>}
        {leftWords && <span className={`text-sm font-bold ${left ? 'text-accent' : 'text-muted'}`}>{leftWords}</span>}
      </Link>
    </td>
  );
}

function Skeleton() {
  return (
    <div className="grid grid-cols-7 gap-px p-3">
      {Array.from({ length: 35 }, (_, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: all alike
        <span key={n} className="h-[88px] animate-pulse bg-surface-deep" />
      ))}
    </div>
  );
}
