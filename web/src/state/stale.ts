import type { QueryKey } from '@tanstack/svelte-query';

/** What changed, as the server tells it: kinds of events, and the orders to which they happened. */
export interface Changed {
  kinds: string[];
  orders: number[];
}

/** Reads are kept under keys whose first part is their subject. These show all orders together. */
const OF_ORDERS = ['orders', 'piles', 'today', 'counts'];
const GOODS = ['stock', 'backorders', 'allocation', 'together', 'suppliers'];
const SENDING = ['dispatch', 'stock', 'routing', 'backorders', 'allocation'];
const SENT = ['dispatch', 'stock', 'returns', 'returnable'];
const RETURNED = ['returns', 'returnable', 'refunds', 'stock'];
const REFUND = ['returns', 'refunds', 'refund-preview'];
const CHANNEL = ['channels', 'connecting', 'files', 'file', 'refused', 'rates', 'routing', 'today', 'counts'];

/** What is stale besides {@link OF_ORDERS} when something of a kind happened to an order. */
const BESIDES: Record<string, string[]> = {
  RECEIVED: ['channels', 'routing'],
  CHANGED_BY_CHANNEL: ['channels'],
  AMENDED: [...SENDING, 'returns'],
  CANCELLED: [...SENDING, 'channels', 'returns', 'refunds'],
  RECALLED: SENDING,
  REFUSED: SENDING,
  MATCHED: ['channels'],
  SNAGGED: ['channels', 'backorders'],
  CLEARED: ['channels', 'backorders'],
  HELD: SENDING,
  HOLD_RELEASED: SENDING,
  ROUTED: SENDING,
  ALLOCATED: SENDING,
  WAITING: SENDING,
  RELEASED: SENDING,
  PACKED: SENT,
  HANDED_OVER: SENT,
  SCANNED: ['dispatch'],
  DELIVERED: SENT,
  TOLD_CHANNEL: ['channels'],
  TOLD_BUYER: ['backorders'],
  NOT_TOLD: ['channels'],
  REFUND_ASKED: REFUND,
  REFUNDED: REFUND,
  RETURN_OPENED: RETURNED,
  RETURN_ARRIVED: RETURNED,
  RETURN_ENDED: RETURNED,
  CORRECTED: ['dispatch']
};

/** What is stale when something happened that is no single order's. */
const OF_NO_ORDER: Record<string, string[]> = {
  STOCK_CHANGED: [...GOODS, 'today', 'counts'],
  CHANNEL_CHANGED: CHANNEL,
  NETWORK_CHANGED: ['network', 'dispatch', 'stock', 'suppliers', 'today', 'counts'],
  CUSTOMER_CHANGED: ['customers'],
  RULEBOOK_CHANGED: ['rulebook']
};

/** Reads of one order: stale only if it is among those to which something happened. */
const OF_ONE = new Set([
  'order',
  'choices',
  'decisions',
  'refusals',
  'refunds',
  'returnable',
  'refund-preview'
]);

/** Which kept reads don't tell the truth any more. */
export function staleBy(changed: Changed): (key: QueryKey) => boolean {
  const subjects = new Set<unknown>();
  for (const kind of changed.kinds) {
    const stale = OF_NO_ORDER[kind] ?? [...OF_ORDERS, ...(BESIDES[kind] ?? [])];
    for (const subject of stale) subjects.add(subject);
  }
  const orders = new Set<unknown>(changed.orders);
  return ([subject, ...rest]) =>
    OF_ONE.has(subject as string) ? rest.some((part) => orders.has(part)) : subjects.has(subject);
}
