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
 * what it takes. So a batch, which asks again and again with other charges, need not search; the
 * plan itself is made of its parts only when it is wanted.
 */
final class PlanTable {
  private final Basket basket;
  private final Policy policy;
  private final Shelves shelves;

  private int size;
  private int[] rung = new int[16];

  /** Rows: the value, then what it {@link Takes}. */
  private long[] cells = new long[64];

  /** By row; the next begins where one ends. */
  private int[] firstCell = new int[17];

  private final List<Part> parts = new ArrayList<>();

  /** By row; the next begins where one ends. */
  private int[] firstPart = new int[17];

  private int[] part = new int[32];

  private final Takes.Sum takes = new Takes.Sum();

  /** Some units of a line from a source by a way. */
  private record Part(Source source, Way way, int line, long units) {}

  PlanTable(Basket basket, Policy policy, Shelves shelves) {
    this.basket = basket;
    this.policy = policy;
    this.shelves = shelves;
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
      return table.value(number);
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
    Sent sent = new Sent(basket, firstPart[row + 1] - firstPart[row]);
    for (int p = firstPart[row]; p < firstPart[row + 1]; p++) {
      Part some = parts.get(part[p]);
      if (sources.isEmpty() || sources.getLast() != some.source()) {
        sources.add(some.source());
      }
      sent.give(sources.size() - 1, some.line(), some.units());
      sent.go(sources.size() - 1, some.way());
    }
    return new Choice(rung[row], basket.plan(sources, sent, policy), true);
  }

  long value(int row) {
    return cells[firstCell[row]];
  }

  Takes takes(int row) {
    return new Takes(Arrays.copyOfRange(cells, firstCell[row] + 1, firstCell[row + 1]));
  }

  /** What the plans come to with charges, by row. */
  long[] charged(Charges charges) {
    long[] charged = new long[size];
    for (int row = 0; row < size; row++) {
      charged[row] = charges.charged(cells, firstCell[row], firstCell[row + 1]);
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
    for (int cell = firstCell[row] + 1; cell < firstCell[row + 1]; cell++) {
      if (Takes.units(cells[cell]) > left.applyAsLong(Takes.what(cells[cell]))) {
        return false;
      }
    }
    return true;
  }

  private boolean isBefore(int row, int other) {
    return value(row) == value(other)
        ? rank(row).compareTo(rank(other)) < 0
        : value(row) < value(other);
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
    return new Plan.Rank(0, value(row), places.size(), arrival, places);
  }

  /** Where what {@link EveryPlan} finds among some sources comes into the table. */
  final class Rows {
    private final List<Source> sources;

    /**
     * By source and way and line: where in the list the part is that is a unit of it; those of more
     * units follow, up to all of the line. −1: they are not in it.
     */
    private final int[] first;

    /** Where those of a source begin. */
    private final int[] firstOf;

    /** By source, the number of its node's places; −1: it has no limit. */
    private final int[] places;

    /** By source and item, what a unit takes one each of; null: not known yet, or it perishes. */
    private final int[] @Nullable [] numbers;

    Rows(List<Source> sources) {
      this.sources = sources;
      this.firstOf = new int[sources.size()];
      int size = 0;
      for (int s = 0; s < firstOf.length; s++) {
        firstOf[s] = size;
        size += sources.get(s).ways().size() * basket.size();
      }
      this.first = new int[size];
      Arrays.fill(first, -1);
      this.places = new int[sources.size()];
      Arrays.setAll(places, s -> shelves.ofPlaces(sources.get(s).node().code()));
      this.numbers = new int[sources.size() * basket.items()][];
    }

    /**
     * @param value plan cost + rung step × rung
     */
    void add(int onRung, long value, Sent plan) {
      makeRoom();
      firstPart[size + 1] = firstPart[size];
      takes.clear();
      for (int c = 0; c < plan.consignments(); c++) {
        int s = plan.sender(c);
        add(s, plan.way(s), plan.units(s));
      }
      int cell = firstCell[size];
      int end = cell + 1 + takes.size();
      if (end > cells.length) {
        cells = Arrays.copyOf(cells, 2 * end);
      }
      cells[cell] = value;
      takes.into(cells, cell + 1);
      rung[size] = onRung;
      firstCell[++size] = end;
    }

    private void makeRoom() {
      if (size + 2 > firstPart.length) {
        rung = Arrays.copyOf(rung, 2 * size);
        firstCell = Arrays.copyOf(firstCell, 2 * size + 1);
        firstPart = Arrays.copyOf(firstPart, 2 * size + 1);
      }
    }

    private void add(int s, Way way, long[] sent) {
      for (int l = 0; l < sent.length; l++) {
        if (sent[l] > 0) {
          add(first(s, way, l) + (int) sent[l] - 1);
          for (int number : numbers(s, basket.itemOf(l), way)) {
            takes.add(number, sent[l]);
          }
        }
      }
      if (places[s] >= 0) {
        takes.add(places[s], 1);
      }
    }

    private void add(int some) {
      int at = firstPart[size + 1]++;
      if (at == part.length) {
        part = Arrays.copyOf(part, 2 * at);
      }
      part[at] = some;
    }

    private int first(int s, Way way, int l) {
      Source source = sources.get(s);
      int at = firstOf[s] + l;
      for (int w = 0; source.ways().get(w) != way; w++) {
        at += basket.size();
      }
      if (first[at] < 0) {
        first[at] = parts.size();
        for (long units = 1; units <= basket.quantity(l); units++) {
          parts.add(new Part(source, way, l, units));
        }
      }
      return first[at];
    }

    private int[] numbers(int s, int item, Way way) {
      int at = s * basket.items() + item;
      int[] known = numbers[at];
      if (known == null) {
        known =
            shelves.numbers(sources.get(s).node().code(), basket.item(item).sku(), way.arrival());
        // of what perishes there are more, and which they are is up to the way
        numbers[at] = known.length == 1 ? known : null;
      }
      return known;
    }
  }
}
