package dev.ordinator.core.network;

/** A node's handling cost in minor units of the base currency. */
public record Handling(long perConsignment, long perLine, long perUnit) {
  public long of(int lines, long units) {
    return perConsignment + perLine * lines + perUnit * units;
  }
}
