package dev.ordinator.stock;

/** In which condition goods are. Only what is sellable counts in a level. */
public enum Condition {
  SELLABLE,
  QUARANTINE,
  DAMAGED
}
