package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Source.Way;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What sources send of an order: a search gives it to them and takes it back. Of many sources few
 * send something, so that those are kept apart.
 */
final class Sent {
  private final Basket basket;

  /** By source and line. */
  private final long[][] units;

  /** By source and item. */
  private final long[][] unitsByItem;

  /** Of how many lines a source sends some. */
  private final int[] lines;

  /** By which it goes. */
  private final @Nullable Way[] ways;

  /** Those that send something, in listed order. */
  private final int[] senders;

  private int consignments;

  /** By item, from all sources. */
  private final long[] all;

  private long allUnits;

  Sent(Basket basket, int sources) {
    this.basket = basket;
    this.units = new long[sources][basket.size()];
    this.unitsByItem = new long[sources][basket.items()];
    this.lines = new int[sources];
    this.ways = new Way[sources];
    this.senders = new int[sources];
    this.all = new long[basket.items()];
  }

  /** A source sends some of a line of which it has sent none yet. */
  void give(int source, int line, long some) {
    if (lines[source]++ == 0) {
      int at = consignments++;
      while (at > 0 && senders[at - 1] > source) {
        senders[at] = senders[--at];
      }
      senders[at] = source;
    }
    change(source, line, some);
  }

  /** A source sends nothing of a line any more. */
  void take(int source, int line) {
    change(source, line, -units[source][line]);
    if (--lines[source] == 0) {
      int at = --consignments;
      int later = senders[at];
      while (later != source) {
        int moved = later;
        later = senders[--at];
        senders[at] = moved;
      }
    }
  }

  private void change(int source, int line, long by) {
    int item = basket.itemOf(line);
    units[source][line] += by;
    unitsByItem[source][item] += by;
    all[item] += by;
    allUnits += by;
  }

  /** How many sources send something. */
  int consignments() {
    return consignments;
  }

  /** The source that sends one of the consignments, which stand in listed order. */
  int sender(int consignment) {
    return senders[consignment];
  }

  boolean sends(int source) {
    return lines[source] > 0;
  }

  /** Units of each line that a source sends; they change after. */
  long[] units(int source) {
    return units[source];
  }

  /** Units of each item that a source sends; they change after. */
  long[] unitsByItem(int source) {
    return unitsByItem[source];
  }

  /** Units of each item that are sent by all; they change after. */
  long[] all() {
    return all;
  }

  /** Units of all lines that are sent. */
  long allUnits() {
    return allUnits;
  }

  /** By which way a source sends what it does. */
  void go(int source, Way way) {
    ways[source] = way;
  }

  /** The way of a source that sends something, once it is decided. */
  Way way(int source) {
    return Objects.requireNonNull(ways[source]);
  }
}
