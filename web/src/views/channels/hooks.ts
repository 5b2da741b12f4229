import type { Schemas } from '../../api/client';

export type HookKind = Schemas['HookBookHookCard']['kinds'][number];

/** What webhooks can be told: our name, the message's type, and when in words. */
export const HOOK_KINDS: [HookKind, string, string][] = [
  ['ORDER_SHIPPED', 'order.shipped', 'a carrier has a parcel of an order'],
  ['ORDER_DELIVERED', 'order.delivered', 'a parcel has arrived'],
  ['ORDER_CANCELLED', 'order.cancelled', 'an order is cancelled'],
  ['ORDER_REFUNDED', 'order.refunded', 'a buyer is to be paid back'],
  ['STOCK_CHANGED', 'stock.changed', 'what can be had changes']
];

export const typeOf = (kind: HookKind) => HOOK_KINDS.find(([k]) => k === kind)?.[1] ?? kind;
