import type { Schemas } from '../api/client';

/** An open snag, as Today and the inspector know it. */
export type SnagLike = Pick<Schemas['SnagQueriesOpenSnag'], 'cause' | 'title' | 'detail'> &
  Partial<Schemas['SnagQueriesOpenSnag']>;

export const CAUSES: Record<SnagLike['cause'], { one: string; what: string }> = {
  UNMATCHED_LISTING: { one: 'Listing not matched', what: 'listing' },
  UNKNOWN_SERVICE: { one: 'Service wording unknown', what: 'wording' },
  BAD_ADDRESS: { one: 'Address incomplete', what: 'order' },
  CHOICE_OPEN: { one: 'Choice open', what: 'order' },
  NO_STOCK: { one: 'None in sight', what: 'item' },
  NOT_TO_WAIT: { one: 'Short, may not wait', what: 'order' },
  NO_ROUTE: { one: 'No way there', what: 'order' },
  NODES_FULL: { one: 'Nodes full', what: 'node day' },
  UNREADABLE_ORDER: { one: 'Order could not be read', what: 'message' },
  CHANGED_BY_CHANNEL: { one: 'Changed in the channel', what: 'order' },
  CANCELLED_TOO_LATE: { one: 'Cancelled in the channel', what: 'order' },
  SENT_UNWANTED: { one: 'Sent, no longer wanted', what: 'order' },
  NO_RATE: { one: 'Exchange rate missing', what: 'currency' },
  DEPOT_SHORT: { one: 'Depot count differs', what: 'item' },
  LEDGER_DIFFERS: { one: 'Level is not what its ledger says', what: 'level' },
  SUPPLY_OVERDUE: { one: 'Supply overdue', what: 'supply' },
  UNKNOWN_CARRIER: { one: 'Carrier unknown there', what: 'carrier' },
  FEED_HELD: { one: 'Stock push held', what: 'push' },
  NOT_TOLD: { one: 'Could not be told', what: 'message' },
  HOOK_FAILS: { one: 'Webhook takes nothing', what: 'webhook' },
  STEP_FAILED: { one: 'Step failed', what: 'order' },
  NOT_TRACKED: { one: 'Parcel not tracked', what: 'order' },
  TOTAL_DIFFERS: { one: 'Total differs', what: 'order' },
  PARCEL_TROUBLE: { one: 'Parcel trouble', what: 'order' },
  RULE_TOO_COSTLY: { one: 'Rule takes too long', what: 'rule' },
  ORDERED_TWICE: { one: 'Ordered twice?', what: 'pair' },
  MONEY_TO_RETURN: { one: 'Cancelled, but paid', what: 'order' }
};
