package dev.ordinator.core.routing;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.routing.OrderDemand.Line;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * An order's lines as the search counts them: items by number, and lots of lines that go as one.
 *
 * <p>Carriage goes by the larger of weight and volume. So that bounds need only one figure, each
 * line has a <i>mass</i>: its weight or its volume, whichever is the larger for the order as a
 * whole, in a unit in which both are whole numbers.
 */
final class Basket {
  private final List<Line> lines;
  private final List<Item> items;
  private final int[] itemOf;
  private final long[] demand;
  private final long units;
  private final List<int[]> bundles;
  private final boolean byVolume;
  private final Policy policy;

  Basket(List<Line> lines, Policy policy) {
    this.lines = lines;
    this.policy = policy;
    Map<String, Integer> numbers = new LinkedHashMap<>();
    this.items = new ArrayList<>();
    this.itemOf = new int[lines.size()];
    Map<String, List<Integer>> together = new LinkedHashMap<>();
    for (int l = 0; l < lines.size(); l++) {
      Line line = lines.get(l);
      Integer number = numbers.putIfAbsent(line.item().sku(), items.size());
      if (number == null) {
        number = items.size();
        items.add(line.item());
      }
      itemOf[l] = number;
      String bundle = line.together() == null ? "line " + l : "bundle " + line.together();
      together.computeIfAbsent(bundle, b -> new ArrayList<>()).add(l);
    }
    this.demand = new long[items.size()];
    long weight = 0;
    long volume = 0;
    for (int l = 0; l < lines.size(); l++) {
      long units = lines.get(l).quantity();
      demand[itemOf[l]] += units;
      weight += Math.multiplyExact(units, lines.get(l).item().weight());
      volume += Math.multiplyExact(units, lines.get(l).item().volume());
    }
    this.units = Arrays.stream(demand).sum();
    this.byVolume = volume * 1000 > weight * policy.volumeDivisor();
    this.bundles =
        together.values().stream()
            .map(b -> b.stream().mapToInt(Integer::intValue).toArray())
            .toList();
  }

  int size() {
    return lines.size();
  }

  int items() {
    return items.size();
  }

  Line line(int l) {
    return lines.get(l);
  }

  Item item(int i) {
    return items.get(i);
  }

  int itemOf(int l) {
    return itemOf[l];
  }

  /** Units of an item over all lines. */
  long demand(int item) {
    return demand[item];
  }

  /** Lines that come from one node each, by their numbers; most are a line by itself. */
  List<int[]> bundles() {
    return bundles;
  }

  /** The bundles, those with no choice among some nodes first, then the heaviest. */
  List<int[]> bundles(List<Source> set) {
    return bundles.stream()
        .sorted(
            Comparator.comparing(
                    (int[] b) -> set.stream().filter(s -> s.most(itemOf[b[0]]) > 0).count() > 1)
                .thenComparingLong(b -> -mass(b)))
        .toList();
  }

  private long mass(int[] bundle) {
    return Arrays.stream(bundle).mapToLong(l -> mass(l) * lines.get(l).quantity()).sum();
  }

  /** Whether a bundle may be divided between nodes. */
  boolean isDivisible(int[] bundle) {
    return bundle.length == 1
        && lines.get(bundle[0]).divisible()
        && lines.get(bundle[0]).together() == null;
  }

  /** Units of all lines. */
  long units() {
    return units;
  }

  /** The mass of all of it. */
  long mass() {
    long mass = 0;
    for (int l = 0; l < lines.size(); l++) {
      mass += mass(l) * lines.get(l).quantity();
    }
    return mass;
  }

  /** The mass of a unit of a line. */
  long mass(int l) {
    Item item = lines.get(l).item();
    return byVolume ? 1000 * item.volume() : item.weight() * policy.volumeDivisor();
  }

  /** The mass of a gram of billable weight. */
  long gram() {
    return policy.volumeDivisor();
  }

  /**
   * The plan in which nodes send so much.
   *
   * @param units by node and line; a node that sends nothing is left out
   */
  Plan plan(List<Source> set, long[][] units, Policy policy) {
    List<PlannedConsignment> consignments = new ArrayList<>();
    for (int s = 0; s < units.length; s++) {
      if (Arrays.stream(units[s]).anyMatch(some -> some > 0)) {
        consignments.add(set.get(s).consignment(units[s]));
      }
    }
    long cost = policy.splitPenalty() * Math.max(0, consignments.size() - 1);
    for (PlannedConsignment sent : consignments) {
      cost += sent.cost().total();
    }
    List<PlannedConsignment.Line> unfilled = new ArrayList<>();
    for (int l = 0; l < lines.size(); l++) {
      long left = lines.get(l).quantity();
      for (long[] from : units) {
        left -= from[l];
      }
      if (left > 0) {
        unfilled.add(new PlannedConsignment.Line(lines.get(l).id(), left));
        cost += policy.unfilledPenaltyPerUnit() * left;
      }
    }
    return new Plan(consignments, unfilled, cost);
  }

  /** The least billable weight that so much mass can have, in grams. */
  long billable(long mass) {
    return Math.ceilDiv(mass, gram());
  }
}
