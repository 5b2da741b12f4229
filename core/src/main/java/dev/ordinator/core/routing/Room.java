package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import dev.ordinator.core.routing.Shelves.Takes;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * Makes room for the orders that lost most: who is in the way of one gives way, and is routed again
 * on what is left then. It stays so if all together come to less.
 */
final class Room {
  /** The part of the orders that it is tried for. */
  private static final int PART = 4;

  /** Ways out that an order would rather have, of which so many are tried. */
  private static final int WANTED = 4;

  private final List<OrderOptions> orders;
  private final Bound bound;
  private final Charges charges;
  private final Picks picks;

  Room(List<OrderOptions> orders, Bound bound, Picks picks) {
    this.orders = orders;
    this.bound = bound;
    this.charges = bound.charges();
    this.picks = picks;
  }

  void make() {
    List<Integer> losers =
        IntStream.range(0, orders.size())
            .boxed()
            .filter(o -> loss(o) > 0)
            .sorted(Comparator.comparingLong(this::loss).reversed())
            .limit(Math.ceilDiv(orders.size(), PART))
            .toList();
    for (int o : losers) {
      long value = picks.of(o).value();
      List<Option> wanted =
          orders.get(o).all().stream()
              .filter(option -> option.value() < value)
              .sorted(Comparator.comparingLong(charges::charged))
              .limit(WANTED)
              .toList();
      for (int w = 0; w < wanted.size() && !gets(o, wanted.get(w)); w++) {
        // the next way out is tried
      }
    }
  }

  /** What an order pays more than if it had all to itself. */
  private long loss(int o) {
    return picks.of(o).value() - bound.best(o).value();
  }

  /**
   * @return false if that would come to no less; all is as it was then
   */
  private boolean gets(int order, Option wanted) {
    long before = picks.total();
    Map<Integer, Option> had = new LinkedHashMap<>();
    had.put(order, picks.of(order));
    picks.clear(order);
    clear(wanted.takes(), had);
    picks.set(order, wanted);
    had.keySet().stream().filter(o -> o != order).forEach(o -> picks.set(o, picks.onWhatIsLeft(o)));
    if (picks.total() < before) {
      return true;
    }
    had.keySet().forEach(picks::clear);
    had.forEach(picks::set);
    return false;
  }

  /**
   * Takes back what is in the way, from those first who lose least.
   *
   * @param had what they had is added to it
   */
  private void clear(Takes wanted, Map<Integer, Option> had) {
    for (int t = 0; t < wanted.what().length; t++) {
      int number = wanted.what()[t];
      long lacking = wanted.units()[t] - picks.left(number);
      if (lacking > 0) {
        List<Integer> holders =
            picks.holders(number).stream()
                .sorted(Comparator.comparingLong(o -> orders.get(o).regret(charges)))
                .toList();
        for (int h = 0; lacking > 0; h++) {
          Option option = picks.of(holders.get(h));
          lacking -= option.takes().of(number);
          had.put(holders.get(h), option);
          picks.clear(holders.get(h));
        }
      }
    }
  }
}
