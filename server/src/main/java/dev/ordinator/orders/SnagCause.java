package dev.ordinator.orders;

/** Why something stopped and needs a person. */
public enum SnagCause {
  UNMATCHED_LISTING,
  UNKNOWN_SERVICE,
  BAD_ADDRESS,
  /** No node has the whole of it; clears itself when stock comes. */
  NO_STOCK,
  /** Stock there is, but no node can send it there. */
  NO_ROUTE,
  /** Every node that could send it has its day full; tried again by itself. */
  NODES_FULL,
  UNREADABLE_ORDER,
  CHANGED_BY_CHANNEL,
  /** The channel or the buyer could not be told. */
  NOT_TOLD
}
