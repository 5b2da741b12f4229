package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import dev.ordinator.core.routing.Router.Listed;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BooleanSupplier;

/**
 * Gives the orders of one priority class what they share, at the least cost of all together.
 *
 * <p>First they are served one by one. If somebody has to give way, what is short is charged for
 * (Lagrangian relaxation: Fisher, The Lagrangian Relaxation Method, Management Science 27, 1981):
 * charges rise for what more want than there is, and every order is routed again with them. That
 * yields a bound which nothing can beat, and for each order the ways out that matter. Of these each
 * is given one by a {@link Dive}, and then they {@link Barter}. A small batch is decided as a
 * whole, with every plan that could still matter, by {@link Selection}, and so is proven.
 */
final class ShareOut {
  /** Batches of up to so many orders are decided as a whole. */
  private static final int WHOLE_UP_TO = 24;

  private static final long STEPS_WHOLE = 400_000;
  private static final long STEPS_ORDER = 30_000;

  private final List<OrderOptions> orders = new ArrayList<>();
  private final Shelves shelves;
  private final Bound bound;
  private final BooleanSupplier enough;
  private Picks picks;

  /**
   * @param enough whether what is found by now will do
   */
  ShareOut(
      List<BatchRouter.Order> batch, Policy policy, Situation situation, BooleanSupplier enough) {
    this.enough = enough;
    this.shelves = new Shelves(situation, batch.stream().map(BatchRouter.Order::demand).toList());
    batch.forEach(order -> orders.add(new OrderOptions(order, policy, situation, shelves)));
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
    boolean isBest = false;
    if (picks.total() > bound.highest() && !enough.getAsBoolean()) {
      bound.raise(picks.total(), enough);
      Picks served = new Dive(orders, shelves, bound).serve();
      picks = served.total() < picks.total() ? served : picks;
      settleAlone();
      isBest = !enough.getAsBoolean() && improve();
    }
    long least = isBest ? picks.total() : Math.min(bound.highest(), picks.total());
    return new Shared(picks.all(), least);
  }

  /**
   * @return whether what is picked is proven to be the best
   */
  private boolean improve() {
    bound.widen();
    new Barter(orders, bound, shelves, picks).trade();
    settleAlone();
    return orders.size() <= WHOLE_UP_TO
        && picks.total() > bound.highest()
        && !enough.getAsBoolean()
        && settleAll();
  }

  /** What all come to at least, whatever is decided. */
  long boundOfAll() {
    bound.free();
    serveOneByOne();
    bound.raise(picks.total(), enough);
    return bound.highest();
  }

  /** In listed order, each at its least cost on what is left. */
  private void serveOneByOne() {
    for (int o = 0; o < orders.size(); o++) {
      Option first = bound.best(o);
      Option unfilled = orders.get(o).unfilled();
      picks.set(o, picks.fits(o, first) ? first : picks.onWhatIsLeft(o, unfilled));
    }
  }

  /** Each order that has not what is best for it with charges is routed on what others leave. */
  private void settleAlone() {
    for (int o = 0; o < orders.size(); o++) {
      Option had = picks.of(o);
      if (bound.charges().charged(had) > bound.least(o)) {
        picks.clear(o);
        picks.set(o, picks.onWhatIsLeft(o, had));
      }
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
      OrderOptions order = orders.get(o);
      Listed listed =
          order
              .router()
              .every(order.rungs(), charges, limit, Integer.MAX_VALUE, new Effort(STEPS_ORDER));
      listed.offered().forEach(offered -> order.add(offered.choice()));
      if (listed.upTo() <= limit) {
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
