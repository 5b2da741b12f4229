package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.Arrays;
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
  private static final int NEAR = 24;

  /** If more orders are in the way, it is left as it is. */
  private static final int IN_THE_WAY = 8;

  /** How much more is borne at first: so many times what an order pays too much on average. */
  private static final double WARM = 2;

  /** By so much less is borne at last. */
  private static final double COOLER = 30;

  private final Picks picks;

  private final List<List<Option>> options;
  private final OptionTable table;

  /** What orders may ask for; by order, what is charged least first. */
  private final int[] wanted;

  /** By order, where that begins; the next begins where one ends. */
  private final int[] firstWanted;

  private final Holdings held;
  private final int[] free;
  private final Keen keen;
  private final double excess;
  private final SplittableRandom random = new SplittableRandom(1);

  /** Who is in the way of a move, and what they would get instead. */
  private final int[] moved = new int[IN_THE_WAY];

  private final int[] instead = new int[IN_THE_WAY];
  private int count;

  Barter(List<OrderOptions> orders, Bound bound, Shelves shelves, Picks picks) {
    this.picks = picks;
    this.options = orders.stream().map(OrderOptions::all).toList();
    this.table = new OptionTable(options);
    this.firstWanted = new int[orders.size() + 1];
    int[] all = new int[table.first(orders.size())];
    double[] charge = bound.charges().each();
    for (int o = 0; o < orders.size(); o++) {
      long[] charged = new long[table.first(o + 1) - table.first(o)];
      for (int i = 0; i < charged.length; i++) {
        charged[i] = (long) table.charged(table.first(o) + i, charge);
      }
      int end = firstWanted[o];
      for (int near : PlanTable.cheapest(charged, Long.MAX_VALUE, NEAR)) {
        all[end++] = table.first(o) + near;
      }
      firstWanted[o + 1] = end;
    }
    this.wanted = Arrays.copyOf(all, firstWanted[orders.size()]);
    int[] picked = new int[orders.size()];
    for (int o = 0; o < picked.length; o++) {
      picked[o] = table.named(o, options.get(o).indexOf(picks.of(o)));
    }
    this.held = new Holdings(table, picked, shelves.have());
    this.keen = new Keen(orders.size());
    for (int o = 0; o < picked.length; o++) {
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
    for (int move = 0; move < moves; move++) {
      int o = random.nextBoolean() && keen.size() > 0 ? keen.any(random) : anyOf(free);
      int some = oneWanted(o);
      if (some != held.of(o)) {
        now += take(o, some, -warmth * StrictMath.log(1 - random.nextDouble()));
        if (now < least) {
          least = now;
          held.mark();
        }
      }
      warmth *= cooling;
    }
    pick(held.marked());
  }

  private void pick(int[] best) {
    for (int o = 0; o < best.length; o++) {
      picks.clear(o);
    }
    for (int o = 0; o < best.length; o++) {
      picks.set(o, options.get(o).get(table.name(best[o])));
    }
  }

  /** What is charged less is asked for more often. */
  private int oneWanted(int order) {
    int first = firstWanted[order];
    int most = firstWanted[order + 1] - first;
    int any = Math.min(random.nextInt(most), Math.min(random.nextInt(most), random.nextInt(most)));
    return wanted[first + any];
  }

  private int anyOf(int[] orders) {
    return orders[random.nextInt(orders.length)];
  }

  /**
   * @return what all come to more; 0 if that is too much: then all is as it was
   */
  private long take(int order, int wanted, double tooMuch) {
    int before = held.of(order);
    held.free(before);
    if (makeRoom(order, wanted)) {
      long more = table.value(wanted) - table.value(before);
      for (int m = 0; m < count; m++) {
        more += table.value(table.first(moved[m])) - table.value(held.of(moved[m]));
      }
      held.use(wanted);
      int served = 0;
      while (served < count && more < tooMuch) {
        int left = bestLeft(moved[served], tooMuch - more);
        more += table.value(left) - table.value(table.first(moved[served]));
        held.use(left);
        instead[served++] = left;
      }
      if (more < tooMuch) {
        set(order, wanted);
        for (int m = 0; m < count; m++) {
          set(moved[m], instead[m]);
        }
        return more;
      }
      while (served > 0) {
        held.free(instead[--served]);
      }
      held.free(wanted);
    }
    held.use(before);
    for (int m = 0; m < count; m++) {
      held.use(held.of(moved[m]));
    }
    return 0;
  }

  private void set(int order, int option) {
    held.set(order, option);
    note(order);
  }

  /** Takes from others what an order wants; false if that is from too many. */
  private boolean makeRoom(int order, int wanted) {
    count = 0;
    for (int t = 0; t < table.takes(wanted); t++) {
      while (held.left(table.what(wanted, t)) < table.units(wanted, t)) {
        if (count == IN_THE_WAY) {
          return false;
        }
        int who = held.anyHolder(table.what(wanted, t), random);
        if (who != order && !isMoved(who)) {
          moved[count++] = who;
          held.free(held.of(who));
        }
      }
    }
    return true;
  }

  private boolean isMoved(int order) {
    for (int m = 0; m < count; m++) {
      if (moved[m] == order) {
        return true;
      }
    }
    return false;
  }

  /**
   * The best of what is left to an order; at least that nothing of it is filled is always there.
   *
   * @param tooMuch what comes to so much more than its cheapest need not fit
   */
  private int bestLeft(int o, double tooMuch) {
    int option = table.first(o);
    double most = table.value(option) + tooMuch;
    while (table.value(option) < most && !held.fits(option)) {
      option++;
    }
    return option;
  }

  private void note(int o) {
    keen.set(o, held.of(o) != wanted[firstWanted[o]]);
  }
}
