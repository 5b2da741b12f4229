package dev.ordinator.core.orders;

/**
 * How many units of a line have come how far. Each count includes those further on.
 *
 * @param open ordered less cancelled
 */
public record LineProgress(
    long open, long routed, long released, long packed, long shipped, long delivered) {

  public LineProgress {
    if (delivered < 0
        || shipped < delivered
        || packed < shipped
        || released < packed
        || routed < released
        || open < routed) {
      throw new IllegalArgumentException(
          "impossible progress: open %d, routed %d, released %d, packed %d, shipped %d, delivered %d"
              .formatted(open, routed, released, packed, shipped, delivered));
    }
  }
}
