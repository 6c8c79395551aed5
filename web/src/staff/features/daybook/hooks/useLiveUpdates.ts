import { type LiveEvent, liveEvent } from '@zaguan/contracts/daybook';
import { useEffect } from 'react';
import { anyOf, type Tag, type TagPart } from '../../../../shared/api/contractApi.ts';
import { api } from '../../../api.ts';
import { inBatches } from '../../../live/batch.ts';
import { listenToLine } from '../../../live/liveLine.ts';
import { useAppDispatch } from '../../../store.ts';
import { weekOfSite } from '../daybook.api.ts';
import { refreshSiteDay } from '../refreshSiteDay.ts';

/** What hangs on visits, wherever they are. */
const VISITS = ['Openings', 'Messages', 'IdentityReview', 'Today', 'Intake'] as const;
/** What hangs on how the clinic is set up. */
const SETUP = ['Setup', 'Clinic', 'Views'] as const;
const EVERYTHING: readonly Tag[] = ['Day', ...VISITS, ...SETUP, 'Hours', 'WorkCount', 'Bench', 'Recalls'];
/** Changes come in bursts: a series, a day that is cancelled. */
const BURST_MS = 300;

/** Listens for "this changed" and fetches it again; all of it after a line was lost, for what was said meanwhile is unknown. */
export function useLiveUpdates(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    let openedBefore = false;
    const changes = inBatches<LiveEvent>(BURST_MS, (events) => {
      dispatch(api.util.invalidateTags(events.flatMap(staleBy)));
      const days = new Map(events.flatMap((event) => (event.type === 'day-changed' ? [[dayKey(event), event]] : [])));
      for (const { siteId, date } of days.values()) void dispatch(refreshSiteDay({ siteId, date }));
    });
    const stop = listenToLine((news) => {
      if (news.kind === 'event') {
        const event = liveEvent.safeParse(JSON.parse(news.data));
        if (event.success) changes.add(event.data);
        return;
      }
      document.documentElement.dataset.live = news.kind === 'opened' ? 'open' : 'lost';
      if (news.kind !== 'opened') return;
      if (openedBefore) dispatch(api.util.invalidateTags([...EVERYTHING]));
      openedBefore = true;
    });
    return () => {
      stop();
      changes.stop();
    };
  }, [dispatch]);
}

const dayKey = ({ siteId, date }: { siteId: string; date: string }) => `${siteId}/${date}`;

function staleBy(event: LiveEvent): readonly (Tag | TagPart)[] {
  switch (event.type) {
    case 'day-changed':
      return [weekOfSite(event.siteId, event.date), anyOf('Day'), ...VISITS];
    case 'work-changed':
      return ['Today', 'WorkCount', 'Intake', 'Bench'];
    case 'views-changed':
      return ['Views'];
    case 'recalls-changed':
      return ['Recalls'];
    case 'hours-changed':
      return ['Day', ...VISITS, 'Hours'];
    case 'setup-changed':
    case 'resync':
      return EVERYTHING;
  }
}
