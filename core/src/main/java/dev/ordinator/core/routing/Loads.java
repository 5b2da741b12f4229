package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Source.Way;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How what sources send can go: a search meets what one sends again with each load of the others.
 */
final class Loads {
  /** If there are more that a source could send, each is worked out whenever it is met. */
  private static final int FEW = 200;

  private final List<Source> sources;

  /** By line, what a unit of it counts in the number of a load. */
  private final int[] counts;

  /** How many there are; none: too many. */
  private final int loads;

  /** What is worked out, by source and number. */
  private final Going[] @Nullable [] known;

  /**
   * How a load can go.
   *
   * @param more what that costs more than the least that the source asks for
   */
  record Going(Way way, long more) {}

  Loads(Basket basket, List<Source> sources) {
    this.sources = sources;
    this.counts = new int[basket.size()];
    this.loads = number(basket);
    this.known = new Going[sources.size() * loads][];
  }

  private int number(Basket basket) {
    int all = 1;
    for (int l = 0; l < counts.length; l++) {
      counts[l] = all;
      all *= (int) Math.min(FEW, basket.quantity(l)) + 1;
      if (all > FEW) {
        return 0;
      }
    }
    return all;
  }

  /** The cheapest first; none if nothing carries it. */
  Going[] of(int source, Sent sent) {
    if (loads == 0) {
      return workedOut(source, sent);
    }
    int number = source * loads;
    long[] units = sent.units(source);
    for (int l = 0; l < units.length; l++) {
      number += (int) units[l] * counts[l];
    }
    Going[] goings = known[number];
    if (goings == null) {
      goings = workedOut(source, sent);
      known[number] = goings;
    }
    return goings;
  }

  private Going[] workedOut(int s, Sent sent) {
    Source source = sources.get(s);
    long billable = source.billable(sent.units(s));
    List<Way> ways = source.waysFor(sent.unitsByItem(s), billable);
    Going[] goings = new Going[ways.size()];
    Arrays.setAll(goings, w -> going(ways.get(w), billable, source));
    return goings;
  }

  private static Going going(Way way, long billable, Source source) {
    return new Going(way, way.cost(billable) - source.tariff().least());
  }
}
