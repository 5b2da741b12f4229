package dev.ordinator.core.network;

/** How fast a service is; a later constant is better. */
public enum ServiceLevel {
  STANDARD,
  EXPRESS;

  /** Whether a lane of this level may serve an order that asks for {@code asked}. */
  public boolean covers(ServiceLevel asked) {
    return compareTo(asked) >= 0;
  }
}
