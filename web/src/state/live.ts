import { queries } from '../api/queries';

/** Which cached reads an event makes stale. */
const STALE: Record<string, string[]> = {
  STOCK_CHANGED: ['stock', 'today', 'backorders', 'allocation'],
  CHANNEL_CHANGED: ['channels', 'today', 'routing'],
  NETWORK_CHANGED: ['network', 'today', 'dispatch']
};
const OF_ORDERS = [
  'orders',
  'order',
  'piles',
  'today',
  'dispatch',
  'counts',
  'stock',
  'decisions',
  'refusals',
  'channels',
  'routing',
  'backorders',
  'allocation',
  'returns',
  'returnable',
  'refunds'
];
const GATHER_FOR = 400;

/** Listens for what others change, and has the open views read it again. Returns how to stop. */
export function listen(connected: (yes: boolean) => void): () => void {
  const source = new EventSource('/api/live');
  let waiting = new Set<string>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  source.onopen = () => connected(true);
  source.onerror = () => connected(false);
  source.addEventListener('changed', (message) => {
    const { kinds } = JSON.parse((message as MessageEvent<string>).data) as { kinds: string[] };
    for (const kind of kinds) for (const key of STALE[kind] ?? OF_ORDERS) waiting.add(key);
    // many events come at once: read again once for all of them
    timer ??= setTimeout(() => {
      timer = undefined;
      const keys = waiting;
      waiting = new Set();
      for (const key of keys) void queries.invalidateQueries({ queryKey: [key] });
    }, GATHER_FOR);
  });
  return () => {
    clearTimeout(timer);
    source.close();
  };
}
