import { liveEvent } from '@zaguan/contracts/daybook';
import { useEffect } from 'react';
import { api } from '../../../api.ts';
import { listenToLine } from '../../../live/liveLine.ts';
import { useAppDispatch } from '../../../store.ts';

const DAY = ['Day', 'Openings', 'Messages', 'IdentityReview', 'Today', 'Intake'] as const;
/** What hangs on how the clinic is set up. */
const SETUP = ['Setup', 'Clinic'] as const;

/** Listens for "this changed" and fetches again; always after a line was lost, for what was said meanwhile is unknown. */
export function useLiveUpdates(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    let openedBefore = false;
    return listenToLine((news) => {
      if (news.kind === 'event') {
        const event = liveEvent.safeParse(JSON.parse(news.data));
        if (event.success) dispatch(api.util.invalidateTags(staleBy(event.data.type)));
        return;
      }
      document.documentElement.dataset.live = news.kind === 'opened' ? 'open' : 'lost';
      if (news.kind !== 'opened') return;
      if (openedBefore) dispatch(api.util.invalidateTags([...DAY, ...SETUP, 'Hours']));
      openedBefore = true;
    });
  }, [dispatch]);
}

function staleBy(type: ReturnType<typeof liveEvent.parse>['type']) {
  switch (type) {
    case 'day-changed':
      return [...DAY];
    case 'work-changed':
      return ['Today' as const, 'Intake' as const];
    case 'hours-changed':
      return [...DAY, 'Hours' as const];
    case 'setup-changed':
    case 'resync':
      return [...DAY, ...SETUP, 'Hours' as const];
  }
}
