import { queries } from '../api/queries';
import { staleBy, type Changed } from './stale';

/** Many events come at once: what they make stale is read again once for all of them. */
const GATHER_FOR = 400;
/** Nobody looks at a hidden tab; it is up to date when they turn back to it. */
const GATHER_HIDDEN_FOR = 60_000;

/** Listens for what others change, and has the open views read it again. Returns how to stop. */
export function listen(connected: (yes: boolean) => void): () => void {
  const source = new EventSource('/api/live');
  let gathered: Changed = { kinds: [], orders: [] };
  let timer: ReturnType<typeof setTimeout> | undefined;

  function readAgain() {
    clearTimeout(timer);
    timer = undefined;
    const stale = staleBy(gathered);
    gathered = { kinds: [], orders: [] };
    void queries.invalidateQueries({ predicate: (query) => stale(query.queryKey) });
  }
  const shown = () => document.hidden || timer === undefined || readAgain();

  source.onopen = () => connected(true);
  source.onerror = () => connected(false);
  source.addEventListener('changed', (message) => {
    const { kinds, orders } = JSON.parse((message as MessageEvent<string>).data) as Changed;
    gathered = {
      kinds: [...new Set([...gathered.kinds, ...kinds])],
      orders: [...new Set([...gathered.orders, ...orders])]
    };
    timer ??= setTimeout(readAgain, document.hidden ? GATHER_HIDDEN_FOR : GATHER_FOR);
  });
  document.addEventListener('visibilitychange', shown);
  return () => {
    clearTimeout(timer);
    document.removeEventListener('visibilitychange', shown);
    source.close();
  };
}
