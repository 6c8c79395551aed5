/** What a tab hears: the line opened (again), was lost, or brought an event's text. */
export type LineEvent =
  | { readonly kind: 'opened' }
  | { readonly kind: 'lost' }
  | { readonly kind: 'event'; readonly data: string };

type Said = LineEvent | { readonly kind: 'who-is-open' };

const NAME = 'zaguan-live';
const ADDRESS = '/api/events';

/**
 * The server's line of events, one for all tabs of this browser: browsers keep only six connections to a server over
 * HTTP/1.1, and a line for each tab would leave the seventh tab waiting for ever. Tabs queue for a lock; who holds it
 * keeps the line and tells the others. Where locks are not to be had (no secure context), each tab has its own.
 *
 * @returns stops listening, and hands the line on
 */
export function listenToLine(hear: (news: LineEvent) => void): () => void {
  if (!('locks' in navigator)) return ownLine(hear);
  const channel = new BroadcastChannel(NAME);
  let isOpen = false;
  let leads = false;
  let letGo: AbortController | null = null;
  const tell = (news: LineEvent) => {
    isOpen = news.kind === 'opened' || (isOpen && news.kind !== 'lost');
    try {
      channel.postMessage(news);
    } catch {
      // The page is being left and its channel is gone; whoever leads next says where things stand.
      return;
    }
    hear(news);
  };
  const queue = () => {
    const mine = new AbortController();
    letGo = mine;
    const lead = () =>
      new Promise<void>((resolve) => {
        // Given up in the moment in which its turn came.
        if (mine.signal.aborted) return resolve();
        leads = true;
        const stop = ownLine(tell);
        mine.signal.addEventListener('abort', () => {
          stop();
          leads = false;
          isOpen = false;
          resolve();
        });
      });
    // Given up before its turn came: nothing to hand on.
    navigator.locks.request(NAME, { signal: mine.signal }, lead).catch(() => undefined);
  };
  channel.onmessage = ({ data }: MessageEvent<Said>) => {
    if (data.kind !== 'who-is-open') hear(data);
    else if (leads && isOpen) channel.postMessage({ kind: 'opened' } satisfies LineEvent);
  };
  // A page that is left must not keep the line while the browser keeps it for going back.
  const hide = () => letGo?.abort();
  const show = (event: PageTransitionEvent) => {
    if (event.persisted) queue();
  };
  window.addEventListener('pagehide', hide);
  window.addEventListener('pageshow', show);
  queue();
  channel.postMessage({ kind: 'who-is-open' } satisfies Said);
  return () => {
    window.removeEventListener('pagehide', hide);
    window.removeEventListener('pageshow', show);
    hide();
    channel.close();
  };
}

function ownLine(hear: (news: LineEvent) => void): () => void {
  const source = new EventSource(ADDRESS);
  source.onopen = () => hear({ kind: 'opened' });
  source.onerror = () => hear({ kind: 'lost' });
  source.onmessage = (message) => hear({ kind: 'event', data: String(message.data) });
  return () => source.close();
}
