package dev.ordinator.core.routing;

import dev.ordinator.core.network.RateTable;
import dev.ordinator.core.routing.Source.Way;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What carriage and lateness of a consignment can come to, by the ways it can go. */
final class Tariff {
  /**
   * A way at one step of its rates.
   *
   * @param upTo the most mass that goes at that price
   * @param cost carriage and lateness
   */
  record Slot(Way way, long upTo, long cost) {}

  private final List<Way> ways;
  private final Basket basket;
  private final long least;
  private @Nullable List<Slot> slots;

  Tariff(List<Way> ways, Basket basket) {
    this.ways = ways;
    this.basket = basket;
    long cheapest = Long.MAX_VALUE;
    for (Way way : ways) {
      cheapest = Math.min(cheapest, way.least());
    }
    this.least = ways.isEmpty() ? 0 : cheapest;
  }

  /** No less than this, whatever is sent. */
  long least() {
    return least;
  }

  /**
   * The prices at which a consignment of it can go: for each way, each step of its rates, up to the
   * first that holds all that there is of the basket. Worked out when it is wanted: small orders do
   * without.
   */
  List<Slot> slots() {
    if (slots == null) {
      slots = all();
    }
    return slots;
  }

  private List<Slot> all() {
    List<Slot> slots = new ArrayList<>();
    for (Way way : ways) {
      boolean needed = true;
      for (Way other : ways) {
        needed &= !isNeverBehind(other, way);
      }
      if (needed) {
        addSlots(way, slots);
      }
    }
    return slots;
  }

  private void addSlots(Way way, List<Slot> slots) {
    List<RateTable.Step> steps = way.trip().lane().rates().steps();
    RateTable.Step top = steps.getLast();
    long mass = basket.billed(way.most());
    for (long full = 0; ; full++) {
      for (RateTable.Step step : steps) {
        long upTo = (full * top.upTo() + step.upTo()) * basket.gram();
        slots.add(new Slot(way, upTo, full * top.price() + step.price() + way.lateness()));
        if (upTo >= mass) {
          return;
        }
      }
    }
  }

  /** Whether a way is chosen before another, whatever there is to send. */
  private boolean isNeverBehind(Way one, Way other) {
    if (one == other) {
      return false;
    }
    RateTable rates = one.trip().lane().rates();
    RateTable others = other.trip().lane().rates();
    RateTable.Step top = rates.steps().getLast();
    RateTable.Step othersTop = others.steps().getLast();
    long heaviest = basket.billable(basket.mass());
    boolean inParcels = heaviest > Math.min(top.upTo(), othersTop.upTo());
    if (inParcels && (top.upTo() != othersTop.upTo() || top.price() > othersTop.price())) {
      return false;
    }
    for (int item = 0; item < basket.items(); item++) {
      if (one.most()[item] < other.most()[item]) {
        return false;
      }
    }
    boolean first = ways.indexOf(one) < ways.indexOf(other);
    return isNeverDearer(one, other, rates.steps(), first)
        && isNeverDearer(one, other, others.steps(), first);
  }

  private static boolean isNeverDearer(
      Way one, Way other, List<RateTable.Step> steps, boolean orEqual) {
    for (RateTable.Step step : steps) {
      long less = other.cost(step.upTo()) - one.cost(step.upTo());
      if (orEqual ? less < 0 : less <= 0) {
        return false;
      }
    }
    return true;
  }
}
