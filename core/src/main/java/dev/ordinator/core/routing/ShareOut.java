package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import dev.ordinator.core.routing.Router.Offered;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * Gives the orders of one priority class what they share, at the least cost of all together.
 *
 * <p>First they are served one by one. If somebody has to give way, what is short is charged for
 * (Lagrangian relaxation: Fisher, The Lagrangian Relaxation Method, Management Science 27, 1981):
 * charges rise for what more want than there is, and every order is routed again with them. That
 * yields a bound which nothing can beat, and for each order the ways out that matter. Then those
 * who want the same are decided together, a few at a time, by {@link Selection}, and those who lost
 * most have {@link Room} made for them; a small batch is decided as a whole, with every plan that
 * could still matter, and so is proven.
 */
final class ShareOut {
  /** Batches of up to so many orders are decided as a whole. */
  private static final int WHOLE_UP_TO = 24;

  private static final long STEPS_WHOLE = 400_000;
  private static final long STEPS_ORDER = 30_000;

  /** So many orders that want the same are decided together. */
  private static final int TOGETHER = 7;

  private static final long STEPS_TOGETHER = 1_500;

  /** Ways out are learned that are dearer by no more than so many times the gap of an order. */
  private static final int NEAR = 2;

  private static final int MANY = 12;
  private static final long STEPS_NEAR = 3_000;

  private final List<OrderOptions> orders = new ArrayList<>();
  private final Shelves shelves;
  private final Bound bound;
  private Picks picks;

  ShareOut(List<BatchRouter.Order> batch, Policy policy, Situation situation) {
    this.shelves = new Shelves(situation);
    batch.forEach(order -> orders.add(new OrderOptions(order, policy, situation)));
    this.bound = new Bound(orders, policy, situation, shelves);
    this.picks = new Picks(orders, shelves);
  }

  /**
   * @param options by order as they are listed
   * @param bound no options come to less together
   */
  record Shared(List<Option> options, long bound) {}

  Shared decide() {
    bound.free();
    serveOneByOne();
    if (picks.total() > bound.highest()) {
      bound.raise(picks.total());
      learnMore();
      Picks served = new Dive(orders, shelves, bound.charges(), picks.total()).serve();
      picks = served.total() < picks.total() ? served : picks;
      settleAlone();
      settleTogether();
      new Room(orders, bound, picks).make();
      if (orders.size() <= WHOLE_UP_TO && picks.total() > bound.highest() && settleAll()) {
        return new Shared(picks.all(), picks.total());
      }
    }
    return new Shared(picks.all(), Math.min(bound.highest(), picks.total()));
  }

  /** What all come to at least, whatever is decided. */
  long boundOfAll() {
    bound.free();
    serveOneByOne();
    bound.raise(picks.total());
    return bound.highest();
  }

  /** In listed order, each at its least cost on what is left. */
  private void serveOneByOne() {
    for (int o = 0; o < orders.size(); o++) {
      Option first = bound.best(o);
      picks.set(o, picks.fits(o, first) ? first : picks.onWhatIsLeft(o));
    }
  }

  /** Ways out that are little dearer with the charges than the best. */
  private void learnMore() {
    Charges charges = bound.charges();
    long more = NEAR * (picks.total() - bound.highest()) / orders.size();
    for (int o = 0; o < orders.size(); o++) {
      OrderOptions order = orders.get(o);
      if (charges.concern(order.demand())) {
        long limit = bound.least(o) + more;
        order.router().every(order.rungs(), charges, limit, new Effort(STEPS_NEAR)).stream()
            .sorted(Comparator.comparingLong(Offered::charged))
            .limit(MANY)
            .forEach(offered -> order.add(offered.choice(), shelves));
      }
    }
  }

  /** Each order that has not what it would rather have is routed again on what others leave. */
  private void settleAlone() {
    for (int o = 0; o < orders.size(); o++) {
      Option had = picks.of(o);
      if (had.value() > bound.best(o).value()) {
        picks.clear(o);
        Option found = picks.onWhatIsLeft(o);
        picks.set(o, found.value() < had.value() ? found : had);
      }
    }
  }

  /**
   * Each order that has not what it would rather have is decided anew together with those who have
   * it.
   */
  private void settleTogether() {
    for (int o = 0; o < orders.size(); o++) {
      long value = picks.of(o).value();
      int order = o;
      orders.get(o).all().stream()
          .filter(option -> option.value() < value)
          .sorted(Comparator.comparingLong(Option::value))
          .limit(2)
          .forEach(wanted -> settle(order, wanted));
    }
  }

  private void settle(int order, Option wanted) {
    Charges charges = bound.charges();
    TreeSet<Integer> all = new TreeSet<>(List.of(order));
    for (int number : wanted.takes().what()) {
      all.addAll(picks.holders(number));
    }
    List<Integer> some =
        Stream.concat(
                Stream.of(order),
                all.stream()
                    .filter(o -> o != order)
                    .sorted(Comparator.comparingLong(o -> orders.get(o).regret(charges)))
                    .limit(TOGETHER - 1))
            .toList();
    long now = some.stream().mapToLong(o -> picks.of(o).value()).sum();
    List<Option> had = some.stream().map(picks::of).toList();
    some.forEach(picks::clear);
    List<Option> better =
        new Selection(
                some.stream().map(o -> orders.get(o).all()).toList(),
                charges,
                picks::left,
                now,
                new Effort(STEPS_TOGETHER))
            .best();
    List<Option> chosen = better.isEmpty() ? had : better;
    for (int i = 0; i < chosen.size(); i++) {
      picks.set(some.get(i), chosen.get(i));
    }
  }

  /**
   * Decides all together, with every plan that could be part of anything better.
   *
   * @return whether what is picked is proven to be the best
   */
  private boolean settleAll() {
    Charges charges = bound.charges();
    long slack = picks.total() - bound.highest();
    List<List<Option>> candidates = new ArrayList<>();
    for (int o = 0; o < orders.size(); o++) {
      long limit = bound.least(o) + slack;
      Effort effort = new Effort(STEPS_ORDER);
      OrderOptions order = orders.get(o);
      order
          .router()
          .every(order.rungs(), charges, limit, effort)
          .forEach(offered -> order.add(offered.choice(), shelves));
      if (effort.isSpent()) {
        return false;
      }
      candidates.add(order.all().stream().filter(c -> charges.charged(c) <= limit).toList());
    }
    Effort effort = new Effort(STEPS_WHOLE);
    List<Option> better =
        new Selection(candidates, charges, shelves::have, picks.total(), effort).best();
    for (int o = 0; o < better.size(); o++) {
      picks.clear(o);
    }
    for (int o = 0; o < better.size(); o++) {
      picks.set(o, better.get(o));
    }
    return !effort.isSpent();
  }
}
