import type { Role } from '@zaguan/contracts';
import type { board, BoardVisit } from '@zaguan/contracts/intake';
import type { OutputOf } from '@zaguan/contracts';
import type { TFunction } from 'i18next';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { formatDate, shiftDate, timeOf } from '../../../shared/time/format.ts';
import { Button } from '../../../shared/ui/Button.tsx';
import { TickField } from '../../../shared/ui/inputs.tsx';
import { Page } from '../../shell/Page.tsx';
import { SidePanel } from '../../shell/SidePanel.tsx';
import { SiteChoice } from '../../shell/SiteChoice.tsx';
import { useAddress } from '../../shell/useAddress.ts';
import { accountsApi } from '../accounts/index.ts';
import { CheckInPanel } from './CheckInPanel.tsx';
import { intakeApi } from './intake.api.ts';

type Board = OutputOf<typeof board>;
type Site = Board['sites'][number];

/** Who is ready for today and the next working day, a line a visit; one opened at the right to be made ready and checked in. */
export function IntakePage() {
  const { t } = useTranslation();
  const { asked, set } = useAddress();
  const date = asked.get('date') ?? undefined;
  const query = intakeApi.useBoardQuery({ date });
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const onlyOpen = asked.get('show') !== 'all';
  const opened = asked.get('visit');
  const sites = query.currentData?.sites ?? [];
  const siteId = sites.find(({ id }) => id === asked.get('site'))?.id ?? 'all';
  const chosen = sites.flatMap(({ visits }) => visits).find(({ id }) => id === opened);
  return (
    <div className="flex min-h-0 flex-1">
      <Page
        title={t('board.title')}
        note={<span className="text-muted">{t('board.note')}</span>}
        toolbar={
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line bg-surface-deep px-4 py-1.5">
            <SiteChoice sites={sites} value={siteId} onChoose={(site) => set({ site: site === 'all' ? null : site })} />
            <label className="flex items-center gap-2">
              {t('board.day')}
              <input
                type="date"
                className="rounded-md border border-line-strong bg-panel px-2 py-1"
                value={date ?? ''}
                onChange={(event) => set({ date: event.target.value || null, visit: null })}
              />
            </label>
            <Button disabled={!date} onClick={() => set({ date: null, visit: null })}>
              {t('board.nextDays')}
            </Button>
            <TickField checked={onlyOpen} onChange={(event) => set({ show: event.target.checked ? null : 'all' })}>
              {t('board.onlyOpen')}
            </TickField>
          </div>
        }
        query={query}
      >
        {(data) => (
          <div className="flex flex-col gap-6">
            {[...new Set(data.sites.flatMap(({ days }) => days))]
              .sort()
              .flatMap((day) =>
                data.sites
                  .filter((site) => site.days.includes(day) && (siteId === 'all' || siteId === site.id))
                  .map((site) => (
                    <DayTable
                      key={`${site.id} ${day}`}
                      data={data}
                      site={site}
                      day={day}
                      onlyOpen={onlyOpen}
                      opened={opened}
                      onOpen={(visit) => set({ visit }, !opened)}
                    />
                  )),
              )}
          </div>
        )}
      </Page>
      {chosen && who?.me && <Side visit={chosen} role={who.me.role} onClose={() => set({ visit: null })} />}
    </div>
  );
}

function Side({ visit, role, onClose }: { visit: BoardVisit; role: Role; onClose: () => void }) {
  return (
    <SidePanel label={visit.name} about={visit.id} onClose={onClose}>
      <h2 className="mb-3 text-xl leading-tight font-bold">
        {visit.patientId ? (
          <Link className="underline decoration-line-strong" to={`/patients/${visit.patientId}`}>
            {visit.name}
          </Link>
        ) : (
          visit.name
        )}
      </h2>
      <CheckInPanel key={visit.id} visitId={visit.id} name={visit.name} role={role} />
    </SidePanel>
  );
}

interface TableProps {
  readonly data: Board;
  readonly site: Site;
  readonly day: string;
  readonly onlyOpen: boolean;
  readonly opened: string | null;
  readonly onOpen: (visitId: string) => void;
}

function DayTable({ data, site, day, onlyOpen, opened, onOpen }: TableProps) {
  const { t } = useTranslation();
  const all = site.visits.filter(({ date }) => date === day);
  // What a link led to is shown, whatever else is left out.
  const shown = onlyOpen
    ? all.filter(({ id, readiness, status }) => id === opened || (!readiness.ready && status !== 'checked-in'))
    : all;
  const title = t('board.heading', { site: site.name, day: dayWords(day, site.today, t) });
  return (
    <section aria-label={title}>
      <h2 className="mb-1 flex items-baseline gap-3 font-bold">
        {title}
        <span className="font-normal text-muted">
          {t('board.ready', { done: all.filter(({ readiness }) => readiness.ready).length, total: all.length })}
        </span>
      </h2>
      {shown.length === 0 ? (
        <p className="text-muted">{t(all.length ? 'board.allReady' : 'board.none')}</p>
      ) : (
        <table className="w-full border-collapse text-left max-md:block">
          <thead className="max-md:sr-only">
            <tr className="border-b border-line-strong text-sm text-muted">
              <th className="w-20 py-1 font-semibold">{t('board.time')}</th>
              <th className="w-40 font-semibold">{t('board.patient')}</th>
              <th className="w-[30%] font-semibold">{t('board.visit')}</th>
              <th className="font-semibold">{t('board.missing')}</th>
              <th className="w-28 font-semibold">{t('board.state')}</th>
            </tr>
          </thead>
          <tbody className="max-md:block">
            {shown.map((visit) => (
              <Row
                key={visit.id}
                visit={visit}
                data={data}
                timeZone={site.timeZone}
                open={visit.id === opened}
                onOpen={onOpen}
              />
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** "today", "tomorrow", else the date. */
function dayWords(day: string, today: string, t: TFunction): string {
  if (day === today) return t('board.today');
  return day === shiftDate(today, 1) ? t('board.tomorrow') : formatDate(day);
}

/** What a line names as missing; an unknown person and a red flag stand in the column beside. */
const NAMED_AS_MISSING: ReadonlySet<string> = new Set(['form', 'consent', 'contact', 'confirmed']);

function Row({
  visit,
  data,
  timeZone,
  open,
  onOpen,
}: {
  visit: BoardVisit;
  data: Board;
  timeZone: string;
  open: boolean;
  onOpen: (visitId: string) => void;
}) {
  const { t } = useTranslation();
  const { items, held, ready } = visit.readiness;
  const missing = items.filter((item) => item.state === 'missing' && NAMED_AS_MISSING.has(item.code));
  const nameOf = (item: (typeof items)[number]) =>
    data.documents.find(({ id }) => id === item.documentId)?.name ?? t(`board.without.${item.code}`);
  const of = (code: string) => items.find((item) => item.code === code);
  const state =
    visit.status === 'checked-in'
      ? t('board.inside')
      : held
        ? t('readiness.held')
        : of('person')?.state === 'missing'
          ? t('visit.notKnown')
          : ready
            ? t('readiness.ready')
            : t('readiness.of', { done: visit.readiness.done, total: visit.readiness.total });
  return (
    <tr
      data-board-visit={visit.id}
      data-ready={ready}
      className={`border-b border-line max-md:grid max-md:grid-cols-[4.5rem_1fr] max-md:gap-x-3 max-md:py-2 ${open ? 'bg-accent-subtle' : ''}`}
    >
      <td className="py-1.5 whitespace-nowrap tabular-nums max-md:py-0">{timeOf(visit.start, timeZone)}</td>
      <td>
        <button
          type="button"
          className="min-h-7 text-left font-bold underline decoration-line-strong"
          aria-label={t('board.open', { name: visit.name })}
          aria-pressed={open}
          onClick={() => onOpen(visit.id)}
        >
          {visit.name}
        </button>
      </td>
      <td className="pr-2 max-md:col-start-2">
        {visit.visitType}
        {visit.provider && `, ${visit.provider}`}
      </td>
      <td className="pr-2 max-md:col-start-2">
        {missing.map((item, i) => (
          <span
            key={`${item.code}${item.documentId}`}
            data-missing={item.needed ? 'needed' : 'wished'}
            className={item.needed ? 'font-bold text-danger' : 'text-warning'}
          >
            {i > 0 && ', '}
            {nameOf(item)}
          </span>
        ))}
        {missing.length === 0 && <span className="text-muted">–</span>}
      </td>
      <td
        className={`font-bold max-md:col-start-2 ${visit.status === 'checked-in' || ready ? 'text-accent' : 'text-danger'}`}
      >
        {state}
      </td>
    </tr>
  );
}
