package dev.ordinator.routing;

import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.RoutingWishes.Wishes;
import dev.ordinator.rulebook.Rulebook;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** What core is asked for an order. */
public final class Demands {
  private Demands() {}

  /**
   * By which ladder an order goes. One that may not be split, or not in part, is sent whole on
   * every rung.
   */
  public static Ladder ladder(Rulebook book, Wishes wishes) {
    Ladder ladder = book.ladder(wishes.ladder());
    if (Boolean.FALSE.equals(wishes.maySplit()) || Boolean.FALSE.equals(wishes.inPart())) {
      return ladder.whole();
    }
    return Boolean.TRUE.equals(wishes.inPart()) ? ladder.inPart() : ladder;
  }

  /**
   * Whether a part of an order may be sent while the rest waits.
   *
   * @param ladder what was said of it, as {@code maySplit} and {@code inPart}; null: nothing
   */
  public static boolean goesInPart(
      Rulebook book,
      @Nullable String ladder,
      @Nullable Boolean maySplit,
      @Nullable Boolean inPart) {
    return ladder(book, new Wishes(ladder, maySplit, inPart, Set.of(), Set.of())).goesInPart();
  }

  /**
   * @param serving codes of the nodes that serve its channel; empty: all do
   * @param wishes what rules said of it
   * @param refused codes of nodes that refused it
   * @param wanted what of it is to be sent; unless rules prefer other nodes, the home nodes of its
   *     items are
   */
  public static OrderDemand of(
      OrderHead order,
      ServiceLevel level,
      Set<String> serving,
      Wishes wishes,
      Set<String> refused,
      Wanted wanted) {
    return new OrderDemand(
        order.number(),
        new Destination(order.shipTo().country(), order.shipTo().postcode()),
        level,
        order.arriveBy(),
        Boolean.FALSE.equals(wishes.maySplit()) ? 1 : null,
        new OrderDemand.From(
            serving,
            order.pickUpNode(),
            wishes.excluded(),
            wishes.preferred().isEmpty() ? wanted.homes() : wishes.preferred(),
            refused),
        wanted.lines());
  }
}
