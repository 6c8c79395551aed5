import { MAX_MOVES, type VisitToMove } from '@zaguan/contracts/availability';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Button } from '../../../../shared/ui/Button.tsx';
import { ScrollRegion } from '../../../../shared/ui/ScrollRegion.tsx';
import { QueryFrame } from '../../../shell/QueryFrame.tsx';
import { SidePanel } from '../../../shell/SidePanel.tsx';
import { availabilityApi } from '../availability.api.ts';
import { needsCall, NONE, textOf } from '../components/otherTime.ts';
import { RecentMoves } from '../components/RecentMoves.tsx';
import { ReviewMoves } from '../components/ReviewMoves.tsx';
import { ToMoveFilters, useToMoveFilters } from '../components/ToMoveFilters.tsx';
import { VisitsToMoveTable } from '../components/VisitsToMoveTable.tsx';
import { useMoveVisits } from '../hooks/useMoveVisits.ts';

/** One's own change put it here: whoever made it settles it, so those come first. */
const ownFirst = (a: VisitToMove, b: VisitToMove) => Number(b.mine) - Number(a.mine) || (a.start < b.start ? -1 : 1);

/** Visits whose hours, rooms or people are gone: each with its best other times, moved one by one or several at once. */
export function VisitsToMovePage() {
  const { t } = useTranslation();
  const query = availabilityApi.useVisitsToMoveQuery({});
  const { data } = query;
  const filters = useToMoveFilters();
  /** What was chosen instead of the proposal, by visit. */
  const [times, setTimes] = useState<Record<string, string>>({});
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [reviewing, setReviewing] = useState(false);
  useEffect(() => {
    document.title = t('schedule.toMove');
  }, [t]);
  const scroller = useRef<HTMLElement>(null);
  const timeOf = (visit: VisitToMove) => times[visit.appointmentId] ?? textOf(visit.proposed);
  const { move, moving } = useMoveVisits(timeOf);
  const all = [...(data?.visits ?? [])].sort(ownFirst);
  const visits = all.filter(filters.fits);
  const canMove = visits.filter((visit) => timeOf(visit) !== NONE);
  const marked = canMove.filter(({ appointmentId }) => chosen.includes(appointmentId));
  // The rest waits for the next press.
  const meant = (marked.length ? marked : canMove).slice(0, MAX_MOVES);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <header className="flex flex-wrap items-center gap-3 border-b border-line bg-surface px-4 py-2">
        <h1 className="text-xl font-bold">{t('schedule.toMove')}</h1>
        <Link to="/availability" className="text-accent underline">
          {t('schedule.backToWeek')}
        </Link>
        {all.length > 0 && <ToMoveFilters filters={filters} visits={all} calls={all.filter(needsCall).length} />}
        {meant.length > 0 && (
          <Button look="primary" className="ml-auto" disabled={moving} onClick={() => setReviewing(true)}>
            {t(marked.length ? 'schedule.moveMarked' : 'schedule.moveAll', { count: meant.length })}
          </Button>
        )}
      </header>
      {data && <RecentMoves moves={data.moves} />}
      <div className="flex min-h-0 flex-1">
        <ScrollRegion
          ref={scroller}
          sideways
          className="min-h-0 flex-1 p-4"
          aria-label={t('schedule.toMove')}
          aria-busy={!data}
        >
          {!data && <QueryFrame query={query} />}
          {data && !visits.length && (
            <p className="text-muted">{t(all.length ? 'schedule.noneFits' : 'schedule.noneToMove')}</p>
          )}
          {visits.length > 0 && (
            <VisitsToMoveTable
              visits={visits}
              scroller={scroller}
              timeOf={timeOf}
              busy={moving}
              chosen={chosen}
              onChoose={setChosen}
              onTime={(id, time) => setTimes({ ...times, [id]: time })}
              onMove={(visit) => void move([visit])}
            />
          )}
        </ScrollRegion>
        {reviewing && meant.length > 0 && (
          <SidePanel label={t('schedule.review')} onClose={() => setReviewing(false)} closesItself>
            <ReviewMoves
              visits={meant}
              timeOf={timeOf}
              busy={moving}
              onLeave={() => setReviewing(false)}
              onMove={() => {
                void move(meant).then(() => {
                  setReviewing(false);
                  setChosen([]);
                });
              }}
            />
          </SidePanel>
        )}
      </div>
    </main>
  );
}
