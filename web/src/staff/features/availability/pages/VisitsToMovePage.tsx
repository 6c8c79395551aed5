import type { VisitToMove } from '@zaguan/contracts/availability';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { dateAt, shortDate, timeOf } from '../../../../shared/time/format.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { Notice } from '../../../../shared/ui/Notice.tsx';
import { accountsApi } from '../../accounts/index.ts';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';

const NONE = '';
const textOf = (time: { start: string; providerId: string | null } | null) =>
  time ? `${time.start} ${time.providerId ?? ''}` : NONE;

/** Visits whose hours, rooms or people are gone: each with its best other times, taken one by one or all at once. */
export function VisitsToMovePage() {
  const { t } = useTranslation();
  const { data, error, isFetching, refetch } = availabilityApi.useVisitsToMoveQuery({});
  const [accept, { isLoading: moving }] = availabilityApi.useAcceptTimesMutation();
  const undoable = useUndoToast();
  /** What was chosen instead of the proposal, by visit. */
  const [chosen, setChosen] = useState<Record<string, string>>({});
  useEffect(() => {
    document.title = t('schedule.toMove');
  }, [t]);
  const failed = apiError(error);
  const visits = data?.visits ?? [];
  const timeOfVisit = (visit: VisitToMove) => chosen[visit.appointmentId] ?? textOf(visit.proposed);
  const placeable = visits.filter((visit) => timeOfVisit(visit) !== NONE);
  const move = async (some: readonly VisitToMove[]) => {
    const times = some.map((visit) => {
      const [start, providerId] = timeOfVisit(visit).split(' ');
      return { appointmentId: visit.appointmentId, version: visit.version, start, providerId: providerId || null };
    });
    const result = await accept({ times });
    if (!result.data) {
      const refused = apiError(result.error);
      toast.error(t(`error.${refused?.tag}`, { requestId: refused?.requestId }));
      return;
    }
    const { moved, refused, undo } = result.data;
    if (undo) undoable(t('schedule.done.moved', { count: moved }), undo.id);
    if (refused.length) toast.error(t('schedule.notMoved', { count: refused.length }));
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex items-center gap-3 border-b border-line bg-lime px-4 py-2">
        <h1 className="text-[1.3rem] font-bold">{t('schedule.toMove')}</h1>
        <Link to="/availability" className="text-door underline">
          {t('schedule.backToWeek')}
        </Link>
        {placeable.length > 1 && (
          <Button look="main" className="ml-auto" disabled={moving || isFetching} onClick={() => void move(placeable)}>
            {t('schedule.moveAll', { count: placeable.length })}
          </Button>
        )}
      </header>
      <section className="min-h-0 flex-1 overflow-auto p-4" aria-label={t('schedule.toMove')} aria-busy={!data}>
        {failed && (
          <>
            <Notice tone="brick" live="assertive">
              {t(`error.${failed.tag}`, { requestId: failed.requestId })}
            </Notice>
            <Button className="mt-3" onClick={() => void refetch()}>
              {t('tryAgain')}
            </Button>
          </>
        )}
        {!data && !failed && (
          <div role="status" aria-label={t('loading')} className="flex flex-col gap-2">
            {[0, 1, 2].map((i) => (
              <div key={i} className="h-14 animate-pulse rounded-md bg-band" />
            ))}
          </div>
        )}
        {data && !visits.length && <p className="text-muted">{t('schedule.noneToMove')}</p>}
        {visits.length > 0 && (
          <table className="w-full border-collapse text-left">
            <thead>
              <tr className="border-b border-line-strong text-muted">
                {['visit', 'why', 'instead', 'act'].map((column) => (
                  <th key={column} scope="col" className="px-2 py-1.5 font-semibold">
                    {t(`schedule.column.${column}`)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {visits.map((visit) => (
                <Row
                  key={visit.appointmentId}
                  visit={visit}
                  value={timeOfVisit(visit)}
                  busy={moving || isFetching}
                  onChoose={(value) => setChosen({ ...chosen, [visit.appointmentId]: value })}
                  onMove={() => void move([visit])}
                />
              ))}
            </tbody>
          </table>
        )}
      </section>
    </main>
  );
}

function Row({
  visit,
  value,
  busy,
  onChoose,
  onMove,
}: {
  visit: VisitToMove;
  value: string;
  busy: boolean;
  onChoose: (value: string) => void;
  onMove: () => void;
}) {
  const { t } = useTranslation();
  const { data: clinic } = accountsApi.useClinicQuery({});
  const [keep, { isLoading: keeping }] = availabilityApi.useKeepTimeMutation();
  const undoable = useUndoToast();
  const [reason, setReason] = useState<string | null>(null);
  const site = clinic?.sites.find(({ id }) => id === visit.siteId);
  const zone = site?.timeZone ?? 'UTC';
  const nameOf = (id: string | null) => clinic?.people.find((person) => person.id === id)?.name ?? '';
  const when = (start: string) => `${shortDate(dateAt(start, zone))}, ${timeOf(start, zone)}`;
  const options = [visit.proposed, ...visit.alternatives].filter((time) => time !== null);
  const times = [...new Map(options.map((time) => [textOf(time), time])).values()];
  const type = clinic?.visitTypes.find(({ id }) => id === visit.visitTypeId)?.name;
  const who = visit.patientName || t('schedule.nobodyKnown');
  const leave = async () => {
    if (!reason) return;
    const result = await keep({ appointmentId: visit.appointmentId, reason });
    if (result.data) undoable(t('schedule.done.kept'), result.data.undo.id);
    else toast.error(t('error.InvalidInput'));
  };
  return (
    <tr className="border-b border-line align-top" data-visit={visit.appointmentId}>
      <td className="px-2 py-2">
        <span className="block font-bold">{who}</span>
        {type} · {when(visit.start)}
        <span className="block text-muted">
          {nameOf(visit.providerId)} · {site?.name}
        </span>
      </td>
      <td className="px-2 py-2">
        {visit.codes.map((code) => (
          <span key={code} className="block">
            {t(`whyNot.code.${code}`)}
          </span>
        ))}
        {visit.otherSeat && <span className="block text-muted">{t('schedule.otherSeat')}</span>}
      </td>
      <td className="px-2 py-2">
        <select
          aria-label={t('schedule.insteadFor', { name: who })}
          className="w-full rounded-md border border-line-strong bg-panel px-2 py-1.5"
          value={value}
          onChange={(event) => onChoose(event.target.value)}
        >
          <option value={NONE}>{t(times.length ? 'schedule.notNow' : 'schedule.nothingFound')}</option>
          {times.map((time) => (
            <option key={textOf(time)} value={textOf(time)}>
              {when(time.start)}
              {time.providerId !== visit.providerId ? `, ${nameOf(time.providerId)}` : ''}
            </option>
          ))}
        </select>
      </td>
      <td className="px-2 py-2">
        {reason === null ? (
          <span className="flex gap-2">
            <Button
              disabled={busy || value === NONE}
              onClick={onMove}
              aria-label={t('schedule.moveOne', { name: who })}
            >
              {t('schedule.move')}
            </Button>
            <Button look="plain" onClick={() => setReason('')}>
              {t('schedule.leave')}
            </Button>
          </span>
        ) : (
          <form
            className="flex gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void leave();
            }}
          >
            <input
              aria-label={t('schedule.leaveWhy')}
              placeholder={t('schedule.leaveWhy')}
              className="min-w-0 rounded-md border border-line-strong bg-panel px-2 py-1.5"
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
            <Button type="submit" disabled={keeping || reason.trim().length < 3}>
              {t('schedule.leave')}
            </Button>
          </form>
        )}
      </td>
    </tr>
  );
}
