package dev.ordinator.core.rules;

/** What can make desk rules look at an order. */
public enum RuleEvent {
  RECEIVED,
  PAID,
  APPROVED,
  ROUTED,
  /** No node has enough of something in it. */
  SHORT,
  RELEASED,
  /** A node said that it can't fill its consignment. */
  REFUSED,
  PACKED,
  /** A consignment was handed over to its carrier. */
  SHIPPED,
  DELIVERED,
  /** A buyer is to send something of it back. */
  RETURN_OPENED,
  AMENDED,
  /** It has stood in one stage for as long as the rule says. */
  STAYS
}
