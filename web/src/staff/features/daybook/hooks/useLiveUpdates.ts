import { liveEvent } from '@zaguan/contracts/daybook';
import { useEffect } from 'react';
import { api } from '../../../api.ts';
import { useAppDispatch } from '../../../store.ts';

/** Listens for "this changed" and fetches again; always after a line was lost, for what was said meanwhile is unknown. */
export function useLiveUpdates(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    const source = new EventSource('/api/events');
    let openedBefore = false;
    const refetch = () =>
      dispatch(api.util.invalidateTags(['Day', 'Openings', 'Messages', 'Vestibule', 'Today', 'Intake']));
    source.onopen = () => {
      if (openedBefore) refetch();
      openedBefore = true;
      document.documentElement.dataset.live = 'open';
    };
    source.onerror = () => {
      document.documentElement.dataset.live = 'lost';
    };
    source.onmessage = (message) => {
      const event = liveEvent.safeParse(JSON.parse(message.data as string));
      if (!event.success) return;
      if (event.data.type === 'day-changed') refetch();
      else if (event.data.type === 'work-changed') dispatch(api.util.invalidateTags(['Today', 'Intake']));
      else dispatch(api.util.invalidateTags(['Day', 'Hours', 'Openings', 'Messages', 'Vestibule', 'Today', 'Intake']));
    };
    return () => source.close();
  }, [dispatch]);
}
