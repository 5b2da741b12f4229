package dev.ordinator.core.routing;

import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.core.routing.Source.Way;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.IntToLongFunction;
import org.jspecify.annotations.Nullable;

/**
 * Plans of a small order, in rows that are quickly gone over: what each comes to with its rung, and
 * its parts. So a batch, which asks again and again with other charges, need not search; the plan
 * itself is made of its parts only when it is wanted.
 */
final class PlanTable {
  private final Basket basket;
  private final Policy policy;
  private final Shelves shelves;

  /** All that comes to no more is listed. */
  private long upTo = Long.MIN_VALUE;

  private long moreThan;

  private final List<Part> parts = new ArrayList<>();
  private int size;
  private int[] rung = new int[16];
  private long[] value = new long[16];

  /** By row; the next begins where one ends. */
  private int[] firstPart = new int[17];

  private int[] part = new int[32];

  /**
   * Some units of a line from a source by a way, or a place on the source's day.
   *
   * @param line −1: a place
   * @param numbers of what is shared that it takes so many units each of
   */
  private record Part(Source source, Way way, int line, long units, int[] numbers) {}

  PlanTable(Basket basket, Policy policy, Shelves shelves) {
    this.basket = basket;
    this.policy = policy;
    this.shelves = shelves;
  }

  long upTo() {
    return upTo;
  }

  /** From now on, what comes to more than what is listed so far and no more than this is added. */
  void widen(long limit) {
    moreThan = upTo;
    upTo = limit;
  }

  int size() {
    return size;
  }

  /** A plan that is listed. */
  record Row(PlanTable table, int number) {
    Choice choice() {
      return table.choice(number);
    }

    /** Plan cost + rung step × rung. */
    long value() {
      return table.value[number];
    }

    Takes takes() {
      return table.takes(number);
    }
  }

  /**
   * @param number negative: none
   */
  Optional<Row> row(int number) {
    return number < 0 ? Optional.empty() : Optional.of(new Row(this, number));
  }

  Choice choice(int row) {
    List<Source> sources = new ArrayList<>();
    List<long[]> sent = new ArrayList<>();
    for (int p = firstPart[row]; p < firstPart[row + 1]; p++) {
      Part some = parts.get(part[p]);
      if (some.line() >= 0) {
        if (sources.isEmpty() || sources.getLast() != some.source()) {
          sources.add(some.source());
          sent.add(new long[basket.size()]);
        }
        sent.getLast()[some.line()] = some.units();
      }
    }
    Plan plan = basket.plan(sources, sent.toArray(new long[0][]), policy);
    return new Choice(rung[row], plan, true);
  }

  Takes takes(int row) {
    Takes.Sum sum = new Takes.Sum();
    for (int p = firstPart[row]; p < firstPart[row + 1]; p++) {
      Part some = parts.get(part[p]);
      for (int number : some.numbers()) {
        sum.add(number, some.units());
      }
    }
    return sum.takes();
  }

  /** What the plans come to with charges, by row. */
  long[] charged(Charges charges) {
    long[] each = new long[parts.size()];
    for (int p = 0; p < each.length; p++) {
      Part some = parts.get(p);
      for (int number : some.numbers()) {
        each[p] += charges.of(number) * some.units();
      }
    }
    long[] charged = Arrays.copyOf(value, size);
    for (int row = 0; row < size; row++) {
      for (int p = firstPart[row]; p < firstPart[row + 1]; p++) {
        charged[row] += each[part[p]];
      }
    }
    return charged;
  }

  /**
   * The rows that are charged least.
   *
   * @param charged by row
   * @param upTo no more than this
   * @param most so many
   */
  static int[] cheapest(long[] charged, long upTo, int most) {
    int[] rows = new int[Math.min(most, charged.length)];
    int size = 0;
    for (int row = 0; row < charged.length; row++) {
      boolean full = size == rows.length;
      if (charged[row] <= upTo && (!full || charged[row] < charged[rows[size - 1]])) {
        int at = full ? size - 1 : size++;
        while (at > 0 && charged[rows[at - 1]] > charged[row]) {
          rows[at] = rows[--at];
        }
        rows[at] = row;
      }
    }
    return Arrays.copyOf(rows, size);
  }

  /**
   * The cheapest plan that takes no more than is left; of equals the first by {@link Plan.Rank}.
   *
   * @param left by number
   * @return its row; −1 if there is none
   */
  int cheapest(IntToLongFunction left) {
    int best = -1;
    for (int row = 0; row < size; row++) {
      if ((best < 0 || isBefore(row, best)) && fits(row, left)) {
        best = row;
      }
    }
    return best;
  }

  /** Whether a plan takes no more than is left. */
  boolean fits(int row, IntToLongFunction left) {
    for (int p = firstPart[row]; p < firstPart[row + 1]; p++) {
      Part some = parts.get(part[p]);
      for (int number : some.numbers()) {
        if (some.units() > left.applyAsLong(number)) {
          return false;
        }
      }
    }
    // parts may take of the same
    Takes takes = takes(row);
    for (int t = 0; t < takes.what().length; t++) {
      if (takes.units()[t] > left.applyAsLong(takes.what()[t])) {
        return false;
      }
    }
    return true;
  }

  private boolean isBefore(int row, int other) {
    return value[row] == value[other]
        ? rank(row).compareTo(rank(other)) < 0
        : value[row] < value[other];
  }

  private Plan.Rank rank(int row) {
    LocalDate arrival = LocalDate.MIN;
    List<Integer> places = new ArrayList<>();
    for (int p = firstPart[row]; p < firstPart[row + 1]; p++) {
      Part some = parts.get(part[p]);
      if (places.isEmpty() || places.getLast() != some.source().place()) {
        places.add(some.source().place());
        arrival = some.way().arrival().isAfter(arrival) ? some.way().arrival() : arrival;
      }
    }
    return new Plan.Rank(0, value[row], places.size(), arrival, places);
  }

  /** Where what {@link EveryPlan} finds comes into the table. */
  final class Rows implements EveryPlan.Sink {
    private final List<Source> sources;

    /**
     * By source and way and line: where in the list the part is that is a unit of it; those of more
     * units follow, up to all of the line. −1: they are not in it. Places stand behind the lines.
     */
    private final int[] first;

    /** Where those of a source begin. */
    private final int[] firstOf;

    Rows(List<Source> sources) {
      this.sources = sources;
      this.firstOf = new int[sources.size()];
      int size = 0;
      for (int s = 0; s < firstOf.length; s++) {
        firstOf[s] = size;
        size += sources.get(s).ways().size() * (basket.size() + 1);
      }
      this.first = new int[size];
      Arrays.fill(first, -1);
    }

    @Override
    public long found(int onRung, long comesTo, long[][] sent, @Nullable Way[] ways) {
      if (comesTo > moreThan) {
        add(onRung, comesTo, sent, ways);
      }
      return upTo;
    }

    private void add(int onRung, long comesTo, long[][] sent, @Nullable Way[] ways) {
      if (size + 2 > firstPart.length) {
        rung = Arrays.copyOf(rung, 2 * size);
        value = Arrays.copyOf(value, 2 * size);
        firstPart = Arrays.copyOf(firstPart, 2 * size + 1);
      }
      int end = firstPart[size];
      for (int s = 0; s < sent.length; s++) {
        Way way = ways[s];
        end = way == null ? end : add(s, way, sent[s], end);
      }
      rung[size] = onRung;
      value[size] = comesTo;
      firstPart[++size] = end;
    }

    private int add(int s, Way way, long[] sent, int from) {
      int end = from;
      for (int l = 0; l < sent.length; l++) {
        if (sent[l] > 0) {
          end = add(first(s, way, l) + (int) sent[l] - 1, end);
        }
      }
      return isLimited(s) ? add(first(s, way, sent.length), end) : end;
    }

    private boolean isLimited(int s) {
      return shelves.ofPlaces(sources.get(s).node().code()) >= 0;
    }

    private int add(int some, int at) {
      if (at == part.length) {
        part = Arrays.copyOf(part, 2 * at);
      }
      part[at] = some;
      return at + 1;
    }

    private int first(int s, Way way, int l) {
      Source source = sources.get(s);
      int at = firstOf[s] + l;
      for (int w = 0; source.ways().get(w) != way; w++) {
        at += basket.size() + 1;
      }
      if (first[at] < 0) {
        first[at] = parts.size();
        addParts(source, way, l);
      }
      return first[at];
    }

    private void addParts(Source source, Way way, int l) {
      String node = source.node().code();
      if (l == basket.size()) {
        parts.add(new Part(source, way, -1, 1, new int[] {shelves.ofPlaces(node)}));
        return;
      }
      int[] numbers = shelves.numbers(node, basket.line(l).item().sku(), way.arrival());
      for (long units = 1; units <= basket.quantity(l); units++) {
        parts.add(new Part(source, way, l, units, numbers));
      }
    }
  }
}
