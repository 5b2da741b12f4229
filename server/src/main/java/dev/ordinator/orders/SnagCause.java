package dev.ordinator.orders;

/** Why something stopped and needs a person. */
public enum SnagCause {
  UNMATCHED_LISTING,
  UNKNOWN_SERVICE,
  BAD_ADDRESS,
  /** A kit in it leaves a choice that the order does not make. */
  CHOICE_OPEN,
  /** No node has the whole of it; clears itself when stock comes. */
  NO_STOCK,
  /** It is short, and may not wait: a person decides. */
  NOT_TO_WAIT,
  /** Stock there is, but no node can send it there. */
  NO_ROUTE,
  /** Every node that could send it has its day full; tried again by itself. */
  NODES_FULL,
  UNREADABLE_ORDER,
  /** The channel changed an order that had been released. */
  CHANGED_BY_CHANNEL,
  /** The channel cancelled an order that is being packed. */
  CANCELLED_TOO_LATE,
  /** Units have left that are no longer wanted: a return is proposed. */
  SENT_UNWANTED,
  /** What the order's currency was worth that day is not known. */
  NO_RATE,
  /** The channel's depot sent more than we thought it had. */
  DEPOT_SHORT,
  /** A level is not what its ledger adds up to. */
  LEDGER_DIFFERS,
  /** An expected supply should have come: nobody knows when it will. */
  SUPPLY_OVERDUE,
  /** The channel knows the carrier by a name that we don't know. */
  UNKNOWN_CARRIER,
  /** The feed guard held a push: a person lets it through or refuses it. */
  FEED_HELD,
  /** The channel or the buyer could not be told. */
  NOT_TOLD,
  /** A machine's webhook takes no messages. */
  HOOK_FAILS,
  /** A step of the order failed again and again, by no fault of the order that we know. */
  STEP_FAILED,
  /** The carrier doesn't say where a parcel is. */
  NOT_TRACKED,
  /** The channel’s total is not what the parts of the order add up to. */
  TOTAL_DIFFERS,
  /** A parcel comes back, is damaged or lost, or nothing is heard of it. */
  PARCEL_TROUBLE,
  /** A rule's condition took more steps for an order than it may: it did not hold. */
  RULE_TOO_COSTLY,
  /** The same buyer ordered the same goods within hours; both go on meanwhile. */
  ORDERED_TWICE,
  /** Something came in for units that were cancelled, and nobody has asked to pay it back. */
  MONEY_TO_RETURN
}
