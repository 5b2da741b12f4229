package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.SplittableRandom;
import java.util.stream.IntStream;

/**
 * Orders exchange what they have: one takes another of its options, and who is in its way takes the
 * best of what is left. So it stays if all come to less; or to a little more, by less and less from
 * move to move (simulated annealing: Kirkpatrick, Gelatt, Vecchi, Optimization by Simulated
 * Annealing, Science 220, 1983). The best that is met counts.
 */
final class Barter {
  private static final int MOVES_PER_ORDER = 50;

  /** Few orders have time for more moves each, as long as there are not so many in all. */
  private static final int MORE_MOVES_PER_ORDER = 1_000;

  private static final int FEW_MOVES = 100_000;

  /** Options of an order that it may ask for: those charged least. */
  private static final int NEAR = 16;

  /** If more orders are in the way, it is left as it is. */
  private static final int IN_THE_WAY = 8;

  /** How much more is borne at first: so many times what an order pays too much on average. */
  private static final double WARM = 2;

  /** By so much less is borne at last. */
  private static final double COOLER = 30;

  private final Picks picks;

  /** By order; the cheapest first. */
  private final List<List<Option>> options = new ArrayList<>();

  private final OptionTable table;

  /** What an order may ask for; what is charged least first. */
  private final int[][] wanted;

  private final Holdings held;
  private final int[] free;
  private final Keen keen;
  private final double excess;
  private final SplittableRandom random = new SplittableRandom(1);

  /** Who was in the way of a move, and what they had. */
  private final int[] moved = new int[IN_THE_WAY];

  private final int[] had = new int[IN_THE_WAY];
  private int count;

  Barter(List<OrderOptions> orders, Bound bound, Shelves shelves, Picks picks) {
    this.picks = picks;
    for (OrderOptions order : orders) {
      List<Option> all = new ArrayList<>(order.all());
      all.sort(Comparator.comparingLong(Option::value));
      options.add(all);
    }
    this.table = new OptionTable(options);
    this.wanted = new int[orders.size()][];
    for (int o = 0; o < wanted.length; o++) {
      List<Option> all = options.get(o);
      long[] charged = all.stream().mapToLong(bound.charges()::charged).toArray();
      wanted[o] = PlanTable.cheapest(charged, Long.MAX_VALUE, NEAR);
      for (int w = 0; w < wanted[o].length; w++) {
        wanted[o][w] += table.first(o);
      }
    }
    this.held = new Holdings(table, orders.size(), shelves.have());
    this.keen = new Keen(orders.size());
    for (int o = 0; o < orders.size(); o++) {
      held.give(o, table.first(o) + options.get(o).indexOf(picks.of(o)));
      note(o);
    }
    this.free = IntStream.range(0, orders.size()).filter(o -> options.get(o).size() > 1).toArray();
    this.excess = (double) (picks.total() - bound.highest()) / orders.size();
  }

  void trade() {
    if (free.length == 0) {
      return;
    }
    int orders = options.size();
    int moves =
        Math.max(MOVES_PER_ORDER * orders, Math.min(FEW_MOVES, MORE_MOVES_PER_ORDER * orders));
    double warmth = WARM * excess;
    double cooling = StrictMath.pow(COOLER, -1.0 / moves);
    long now = 0;
    long least = 0;
    int[] best = held.all();
    for (int move = 0; move < moves; move++) {
      int o = random.nextBoolean() && keen.size() > 0 ? keen.any(random) : anyOf(free);
      int some = wanted[o][random.nextInt(wanted[o].length)];
      if (some != held.of(o)) {
        now += take(o, some, -warmth * StrictMath.log(1 - random.nextDouble()));
        if (now < least) {
          least = now;
          held.copy(best);
        }
      }
      warmth *= cooling;
    }
    pick(best);
  }

  private void pick(int[] best) {
    for (int o = 0; o < best.length; o++) {
      picks.clear(o);
    }
    for (int o = 0; o < best.length; o++) {
      picks.set(o, options.get(o).get(best[o] - table.first(o)));
    }
  }

  private int anyOf(int[] orders) {
    return orders[random.nextInt(orders.length)];
  }

  /**
   * @return what all come to more; 0 if that is too much: then all is as it was
   */
  private long take(int order, int wanted, double tooMuch) {
    int before = held.of(order);
    held.take(order);
    boolean room = makeRoom(wanted);
    long more = 0;
    if (room) {
      held.give(order, wanted);
      more = table.value(wanted) - table.value(before);
      for (int m = 0; m < count; m++) {
        int left = bestLeft(moved[m]);
        held.give(moved[m], left);
        more += table.value(left) - table.value(had[m]);
      }
    }
    if (room && more < tooMuch) {
      note(order);
      for (int m = 0; m < count; m++) {
        note(moved[m]);
      }
      return more;
    }
    if (room) {
      for (int m = 0; m < count; m++) {
        held.take(moved[m]);
      }
      held.take(order);
    }
    held.give(order, before);
    for (int m = 0; m < count; m++) {
      held.give(moved[m], had[m]);
    }
    return 0;
  }

  /** Takes from others what is wanted; false if that is from too many. */
  private boolean makeRoom(int wanted) {
    count = 0;
    for (int t = table.firstTake(wanted); t < table.firstTake(wanted + 1); t++) {
      while (held.left(table.what(t)) < table.units(t)) {
        if (count == IN_THE_WAY) {
          return false;
        }
        int who = held.anyHolder(table.what(t), random);
        moved[count] = who;
        had[count] = held.of(who);
        count++;
        held.take(who);
      }
    }
    return true;
  }

  /**
   * The best of what is left to an order; at least that nothing of it is filled is always there.
   */
  private int bestLeft(int o) {
    int option = table.first(o);
    while (!held.fits(option)) {
      option++;
    }
    return option;
  }

  private void note(int o) {
    keen.set(o, held.of(o) != wanted[o][0]);
  }
}
