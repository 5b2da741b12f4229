package dev.ordinator.stock;

/** In which condition goods are. Only what is sellable counts in a level. */
public enum Condition {
  SELLABLE,
  QUARANTINE,
  DAMAGED,
  /** Sent here by another node of ours, and not here yet. */
  IN_TRANSIT
}
