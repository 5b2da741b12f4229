package dev.ordinator.core.network;

/** What sort of place a node is. */
public enum NodeKind {
  WAREHOUSE,
  STORE,
  /** Makes or procures the goods itself. */
  SUPPLIER,
  /** Ships stock that we own. */
  PARTNER,
  /** Stock that we own, held and shipped by a channel itself. */
  CHANNEL_DEPOT
}
