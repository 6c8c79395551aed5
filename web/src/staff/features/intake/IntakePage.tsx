import type { Role } from '@zaguan/contracts';
import type { board, BoardVisit } from '@zaguan/contracts/intake';
import type { OutputOf } from '@zaguan/contracts';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { timeOf } from '../../../shared/time/format.ts';
import { Page } from '../../shell/Page.tsx';
import { SidePanel } from '../../shell/SidePanel.tsx';
import { accountsApi } from '../accounts/index.ts';
import { CheckInPanel } from './CheckInPanel.tsx';
import { intakeApi } from './intake.api.ts';

type Board = OutputOf<typeof board>;
type Site = Board['sites'][number];

/** Who is ready for today and tomorrow, a line a visit; one opened at the right to be made ready and checked in. */
export function IntakePage() {
  const { t } = useTranslation();
  const query = intakeApi.useBoardQuery({});
  const { data: who } = accountsApi.useWhoAmIQuery({});
  const [onlyOpen, setOnlyOpen] = useState(true);
  const [opened, setOpened] = useState<string | null>(null);
  const chosen = query.currentData?.sites.flatMap(({ visits }) => visits).find(({ id }) => id === opened);
  return (
    <div className="flex min-h-0 flex-1">
      <Page
        title={t('board.title')}
        note={
          <>
            <span className="text-muted">{t('board.note')}</span>
            <label className="ml-auto flex items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-accent"
                checked={onlyOpen}
                onChange={(event) => setOnlyOpen(event.target.checked)}
              />
              {t('board.onlyOpen')}
            </label>
          </>
        }
        query={query}
      >
        {(data) => (
          <div className="flex flex-col gap-6">
            {(['today', 'tomorrow'] as const).flatMap((day) =>
              data.sites.map((site) => (
                <DayTable
                  key={`${site.id} ${day}`}
                  data={data}
                  site={site}
                  day={day}
                  onlyOpen={onlyOpen}
                  opened={opened}
                  onOpen={setOpened}
                />
              )),
            )}
          </div>
        )}
      </Page>
      {chosen && who?.me && <Side visit={chosen} role={who.me.role} onClose={() => setOpened(null)} />}
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
  readonly day: 'today' | 'tomorrow';
  readonly onlyOpen: boolean;
  readonly opened: string | null;
  readonly onOpen: (visitId: string) => void;
}

function DayTable({ data, site, day, onlyOpen, opened, onOpen }: TableProps) {
  const { t } = useTranslation();
  const all = site.visits.filter(({ date }) => date === site[day]);
  const shown = onlyOpen ? all.filter(({ readiness, status }) => !readiness.ready && status !== 'checked-in') : all;
  const title = t('board.heading', { site: site.name, day: t(`board.${day}`) });
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
        <table className="w-full border-collapse text-left">
          <thead>
            <tr className="border-b border-line-strong text-[0.85rem] text-muted">
              <th className="w-20 py-1 font-semibold">{t('board.time')}</th>
              <th className="w-40 font-semibold">{t('board.patient')}</th>
              <th className="w-[30%] font-semibold">{t('board.visit')}</th>
              <th className="font-semibold">{t('board.missing')}</th>
              <th className="w-28 font-semibold">{t('board.state')}</th>
            </tr>
          </thead>
          <tbody>
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
    data.documents.find(({ id }) => id === item.documentId)?.title.en ?? t(`board.without.${item.code}`);
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
      className={`border-b border-line ${open ? 'bg-accent-subtle' : ''}`}
    >
      <td className="py-1.5 whitespace-nowrap tabular-nums">{timeOf(visit.start, timeZone)}</td>
      <td>
        <button
          type="button"
          className="min-h-6 text-left font-bold underline decoration-line-strong"
          aria-label={t('board.open', { name: visit.name })}
          aria-pressed={open}
          onClick={() => onOpen(visit.id)}
        >
          {visit.name}
        </button>
      </td>
      <td className="max-w-0 truncate pr-2">
        {visit.visitType}
        {visit.provider && `, ${visit.provider}`}
      </td>
      <td className="pr-2">
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
      <td className={`font-bold ${visit.status === 'checked-in' || ready ? 'text-accent' : 'text-danger'}`}>{state}</td>
    </tr>
  );
}
