package dev.ordinator.core.routing;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.routing.OrderDemand.Line;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.function.IntUnaryOperator;

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
  private final long[] quantity;
  private final boolean[] divisible;
  private final long[] weight;
  private final long[] volume;
  private final long[] mass;
  private final long[] demand;
  private final int[] linesOf;
  private final long units;
  private final List<int[]> bundles;
  private final List<int[]> heaviest;
  private final boolean byVolume;
  private final Policy policy;

  Basket(List<Line> lines, Policy policy) {
    this.lines = lines;
    this.policy = policy;
    Map<String, Integer> numbers = new HashMap<>();
    this.items = new ArrayList<>();
    this.itemOf = new int[lines.size()];
    this.quantity = new long[lines.size()];
    this.divisible = new boolean[lines.size()];
    this.weight = new long[lines.size()];
    this.volume = new long[lines.size()];
    for (int l = 0; l < lines.size(); l++) {
      Line line = lines.get(l);
      Integer number = numbers.putIfAbsent(line.item().sku(), items.size());
      if (number == null) {
        number = items.size();
        items.add(line.item());
      }
      itemOf[l] = number;
      quantity[l] = line.quantity();
      divisible[l] = line.divisible() && line.together() == null;
      weight[l] = line.item().weight();
      volume[l] = line.item().volume();
    }
    this.demand = new long[items.size()];
    this.linesOf = new int[items.size()];
    long allWeight = 0;
    long allVolume = 0;
    long allUnits = 0;
    for (int l = 0; l < lines.size(); l++) {
      allUnits += quantity[l];
      demand[itemOf[l]] += quantity[l];
      linesOf[itemOf[l]]++;
      allWeight += Math.multiplyExact(quantity[l], weight[l]);
      allVolume += Math.multiplyExact(quantity[l], volume[l]);
    }
    this.units = allUnits;
    this.byVolume = allVolume * 1000 > allWeight * policy.volumeDivisor();
    this.mass = new long[lines.size()];
    for (int l = 0; l < mass.length; l++) {
      mass[l] = mass(lines.get(l).item());
    }
    this.bundles = bundled(lines);
    this.heaviest = new ArrayList<>(bundles);
    heaviest.sort(Comparator.comparingLong(bundle -> -mass(bundle)));
  }

  private static List<int[]> bundled(List<Line> lines) {
    List<int[]> bundles = new ArrayList<>(lines.size());
    Map<String, Integer> named = new HashMap<>();
    for (int l = 0; l < lines.size(); l++) {
      String together = lines.get(l).together();
      Integer at = together == null ? null : named.putIfAbsent(together, bundles.size());
      if (at == null) {
        bundles.add(new int[] {l});
      } else {
        int[] bundle = bundles.get(at);
        int[] more = Arrays.copyOf(bundle, bundle.length + 1);
        more[bundle.length] = l;
        bundles.set(at, more);
      }
    }
    return bundles;
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

  /**
   * Which of its items has an SKU.
   *
   * @throws NoSuchElementException if none has
   */
  int itemWith(String sku) {
    for (int i = 0; i < items.size(); i++) {
      if (items.get(i).sku().equals(sku)) {
        return i;
      }
    }
    throw new NoSuchElementException("nothing of " + sku + " is asked for");
  }

  int itemOf(int l) {
    return itemOf[l];
  }

  /** Units of an item over all lines. */
  long demand(int item) {
    return demand[item];
  }

  /** Units of a line. */
  long quantity(int l) {
    return quantity[l];
  }

  /** Grams of a unit of a line. */
  long weight(int l) {
    return weight[l];
  }

  /** Millilitres of a unit of a line. */
  long volume(int l) {
    return volume[l];
  }

  /** How many lines ask for an item. */
  int linesOf(int item) {
    return linesOf[item];
  }

  /** Lines that come from one node each, by their numbers; most are a line by itself. */
  List<int[]> bundles() {
    return bundles;
  }

  /** The bundles, those with no choice among some nodes first, then the heaviest. */
  List<int[]> bundles(List<Source> set) {
    List<int[]> sorted = new ArrayList<>(bundles.size());
    for (int[] bundle : heaviest) {
      if (!hasChoice(bundle, set)) {
        sorted.add(bundle);
      }
    }
    for (int[] bundle : heaviest) {
      if (hasChoice(bundle, set)) {
        sorted.add(bundle);
      }
    }
    return sorted;
  }

  /** The mass of all of a bundle. */
  long mass(int[] bundle) {
    long mass = 0;
    for (int l : bundle) {
      mass += mass(l) * quantity[l];
    }
    return mass;
  }

  private boolean hasChoice(int[] bundle, List<Source> set) {
    int having = 0;
    for (Source source : set) {
      having += source.most(itemOf[bundle[0]]) > 0 ? 1 : 0;
    }
    return having > 1;
  }

  /** Whether a bundle may be divided between nodes. */
  boolean isDivisible(int[] bundle) {
    return divisible[bundle[0]];
  }

  /**
   * In how many ways it can be divided between nodes and nowhere.
   *
   * @param nodes that have an item
   * @param enough if there are more, it is not said how many
   */
  long ways(IntUnaryOperator nodes, long enough) {
    long ways = 1;
    for (int[] bundle : bundles) {
      long units = isDivisible(bundle) ? quantity(bundle[0]) : 1;
      int having = nodes.applyAsInt(itemOf[bundle[0]]);
      long divided = 1;
      for (int n = 1; n <= having && divided <= enough; n++) {
        divided = divided * (units + n) / n;
      }
      ways *= Math.min(divided, enough + 1);
      if (ways > enough) {
        return ways;
      }
    }
    return ways;
  }

  /** Units of all lines. */
  long units() {
    return units;
  }

  /** The mass of all of it. */
  long mass() {
    return billed(demand);
  }

  /** The mass of a unit of a line. */
  long mass(int l) {
    return mass[l];
  }

  private long mass(Item item) {
    return byVolume ? 1000 * item.volume() : item.weight() * policy.volumeDivisor();
  }

  /** The mass of the most that so many units of each item can be billed for. */
  long billed(long[] unitsByItem) {
    long allWeight = 0;
    long allVolume = 0;
    for (int item = 0; item < unitsByItem.length; item++) {
      allWeight += items.get(item).weight() * unitsByItem[item];
      allVolume += items.get(item).volume() * unitsByItem[item];
    }
    return Math.max(allWeight * policy.volumeDivisor(), allVolume * 1000);
  }

  /** The mass of a gram of billable weight. */
  long gram() {
    return policy.volumeDivisor();
  }

  /**
   * The plan in which nodes send so much, each by the way by which it goes.
   *
   * @param units by node and line; a node that sends nothing is left out
   */
  Plan plan(List<Source> set, long[][] units, Policy policy) {
    List<PlannedConsignment> consignments = new ArrayList<>();
    for (int s = 0; s < units.length; s++) {
      if (isSomething(units[s])) {
        consignments.add(set.get(s).consignment(units[s]));
      }
    }
    return planOf(consignments, units, policy);
  }

  /** The plan in which nodes send so much, each by the way that is said. */
  Plan plan(List<Source> set, Sent sent, Policy policy) {
    List<PlannedConsignment> consignments = new ArrayList<>();
    long[][] units = new long[sent.consignments()][];
    for (int c = 0; c < units.length; c++) {
      int s = sent.sender(c);
      units[c] = sent.units(s);
      consignments.add(set.get(s).consignment(units[c], sent.way(s)));
    }
    return planOf(consignments, units, policy);
  }

  private Plan planOf(List<PlannedConsignment> consignments, long[][] units, Policy policy) {
    List<PlannedConsignment.Line> unfilled = unfilled(units);
    long cost = policy.splitPenalty() * Math.max(0, consignments.size() - 1);
    for (PlannedConsignment sent : consignments) {
      cost += sent.cost().total();
    }
    for (PlannedConsignment.Line line : unfilled) {
      cost += policy.unfilledPenaltyPerUnit() * line.quantity();
    }
    return new Plan(consignments, unfilled, cost);
  }

  private List<PlannedConsignment.Line> unfilled(long[][] units) {
    List<PlannedConsignment.Line> unfilled = new ArrayList<>();
    for (int l = 0; l < lines.size(); l++) {
      long left = lines.get(l).quantity();
      for (long[] from : units) {
        left -= from[l];
      }
      if (left > 0) {
        unfilled.add(new PlannedConsignment.Line(lines.get(l).id(), left));
      }
    }
    return unfilled;
  }

  private static boolean isSomething(long[] units) {
    for (long some : units) {
      if (some > 0) {
        return true;
      }
    }
    return false;
  }

  /** The least billable weight that so much mass can have, in grams. */
  long billable(long mass) {
    return Math.ceilDiv(mass, gram());
  }
}
