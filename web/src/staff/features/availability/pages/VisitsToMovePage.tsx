import type { VisitToMove } from '@zaguan/contracts/availability';
import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { apiError } from '../../../../shared/api/contractApi.ts';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { useUndoToast } from '../../undo/index.ts';
import { availabilityApi } from '../availability.api.ts';
import { needsCall, NONE, textOf, timeFrom } from '../components/otherTime.ts';
import { VisitToMoveRow } from '../components/VisitToMoveRow.tsx';

/** Visits whose hours, rooms or people are gone: each with its best other times, taken one by one or all at once. */
export function VisitsToMovePage() {
  const { t } = useTranslation();
  const { data, error, isFetching, refetch } = availabilityApi.useVisitsToMoveQuery({});
  const [accept] = availabilityApi.useAcceptTimesMutation();
  /** From pressing until the list without what was moved is here. News from others stops nobody's press. */
  const [moving, setMoving] = useState(false);
  const undoable = useUndoToast();
  const [callsOnly, setCallsOnly] = useState(false);
  /** What was chosen instead of the proposal, by visit. */
  const [chosen, setChosen] = useState<Record<string, string>>({});
  useEffect(() => {
    document.title = t('schedule.toMove');
  }, [t]);
  const all = data?.visits ?? [];
  const toCall = all.filter(needsCall);
  const visits = callsOnly ? toCall : all;
  const timeOfVisit = (visit: VisitToMove) => chosen[visit.appointmentId] ?? textOf(visit.proposed);
  const placeable = visits.filter((visit) => timeOfVisit(visit) !== NONE);
  const move = async (some: readonly VisitToMove[]) => {
    setMoving(true);
    await take(some);
    await refetch();
    setMoving(false);
  };
  const take = async (some: readonly VisitToMove[]) => {
    const times = some.map((visit) => {
      return { appointmentId: visit.appointmentId, version: visit.version, ...timeFrom(timeOfVisit(visit)) };
    });
    const result = await accept({ times });
    if (!result.data) {
      const refused = apiError(result.error);
      toast.error(t(`error.${refused?.tag ?? 'Unexpected'}`, { requestId: refused?.requestId }));
      return;
    }
    const { moved, refused, undo } = result.data;
    if (undo) undoable(t('schedule.done.moved', { count: moved }), undo.id);
    if (refused.length) toast.error(t('schedule.notMoved', { count: refused.length }));
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-center gap-3 border-b border-line bg-surface px-4 py-2">
        <h1 className="text-[1.3rem] font-bold">{t('schedule.toMove')}</h1>
        <Link to="/availability" className="text-accent underline">
          {t('schedule.backToWeek')}
        </Link>
        {all.length > 0 && (
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={callsOnly} onChange={(event) => setCallsOnly(event.target.checked)} />
            {t('schedule.callsOnly', { count: toCall.length })}
          </label>
        )}
        {placeable.length > 1 && (
          <Button look="primary" className="ml-auto" disabled={moving} onClick={() => void move(placeable)}>
            {t('schedule.moveAll', { count: placeable.length })}
          </Button>
        )}
      </header>
      <ScrollRegion sideways className="min-h-0 flex-1 p-4" aria-label={t('schedule.toMove')} aria-busy={!data}>
        {!data && <QueryFrame query={{ error, isFetching, refetch }} />}
        {data && !visits.length && (
          <p className="text-muted">{t(all.length ? 'schedule.noneToCall' : 'schedule.noneToMove')}</p>
        )}
        {visits.length > 0 && (
          <table className="w-full border-collapse text-left">
            <thead>
              <tr className="border-b border-line-strong text-muted">
                {(['visit', 'why', 'told', 'instead', 'act'] as const).map((column) => (
                  <th key={column} scope="col" className="px-2 py-1.5 font-semibold">
                    {t(`schedule.column.${column}`)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {visits.map((visit) => (
                <VisitToMoveRow
                  key={visit.appointmentId}
                  visit={visit}
                  value={timeOfVisit(visit)}
                  busy={moving}
                  onChoose={(value) => setChosen({ ...chosen, [visit.appointmentId]: value })}
                  onMove={() => void move([visit])}
                />
              ))}
            </tbody>
          </table>
        )}
      </ScrollRegion>
    </main>
  );
}
