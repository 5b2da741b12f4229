package dev.ordinator.access;

/** What a machine's token lets it do. */
public enum Scope {
  ORDERS_WRITE,
  ORDERS_READ,
  AVAILABILITY;

  String authority() {
    return "SCOPE_" + name();
  }
}
