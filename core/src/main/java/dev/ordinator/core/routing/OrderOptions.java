package dev.ordinator.core.routing;

import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.PlanTable.Row;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.IntToLongFunction;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** What is known that could be done for one order of a batch; at first only to fill nothing. */
final class OrderOptions {
  /**
   * @param made what there is to do for it, made when it is wanted; empty: nothing of it is filled
   * @param value plan cost + rung step × rung
   */
  record Option(Supplier<Optional<Choice>> made, long value, Takes takes) {
    Optional<Choice> choice() {
      return made.get();
    }
  }

  private final OrderDemand demand;

  /** That it asks for, by the numbers of the shelves. */
  private final int[] items;

  private final List<Rung> rungs;
  private final Router router;
  private final Policy policy;
  private final Shelves shelves;
  private final List<Option> options = new ArrayList<>();
  private final int consignments;

  /** Null if it is not small. */
  private final @Nullable Listing listing;

  /** Rows of the listing that are options. */
  private @Nullable Option[] ofRow = new Option[0];

  private @Nullable Charges asked;
  private long knownUpTo;

  /**
   * @param situation with all that the orders share
   * @param shelves its numbers
   */
  OrderOptions(BatchRouter.Order order, Policy policy, Situation situation, Shelves shelves) {
    this.demand = order.demand();
    this.items =
        demand.lines().stream().mapToInt(line -> shelves.item(line.item().sku())).toArray();
    this.rungs = order.ladder().rungs();
    this.policy = policy;
    this.shelves = shelves;
    Integer most = demand.maxConsignments();
    int any = rungs.stream().mapToInt(Rung::maxConsignments).max().orElse(0);
    this.consignments = most == null ? any : Math.min(most, any);
    this.router = new Router(demand, policy, situation);
    options.add(
        new Option(
            Optional::empty,
            units() * policy.unfilledPenaltyPerUnit() + policy.rungStep() * rungs.size(),
            Takes.NOTHING));
    // what is left out whole takes nothing, so that no charges make it dearer
    this.listing = router.list(rungs, shelves, unfilled().value());
  }

  List<Rung> rungs() {
    return rungs;
  }

  OrderDemand demand() {
    return demand;
  }

  /** What it asks for, by the numbers of the shelves. */
  int[] items() {
    return items;
  }

  Router router() {
    return router;
  }

  List<Option> all() {
    return options;
  }

  Option unfilled() {
    return options.getFirst();
  }

  /**
   * Remembers what could be done. Of two ways that take the same, the dearer is forgotten.
   *
   * @return the number of the option
   */
  int add(Choice choice) {
    Option option =
        new Option(
            () -> Optional.of(choice),
            choice.plan().cost() + policy.rungStep() * choice.rung(),
            shelves.takes(choice.plan(), demand));
    for (int i = 1; i < options.size(); i++) {
      if (options.get(i).takes().same(option.takes())) {
        if (option.value() < options.get(i).value()) {
          options.set(i, option);
        }
        return i;
      }
    }
    options.add(option);
    return options.size() - 1;
  }

  /** Whether all that could be done for it is listed: it is, if that is little. */
  boolean isListed() {
    return listing != null;
  }

  /**
   * The best of all there is, of what is left; of an order that {@link #isListed}.
   *
   * @param had if nothing comes to less
   */
  Option cheapest(IntToLongFunction left, Option had) {
    return listed().cheapest(left, had.value() - 1).map(this::option).orElse(had);
  }

  /**
   * Of all that is listed, makes options of what comes to little more than the best with charges.
   *
   * @param more by how much more than the best
   * @param most so many, the cheapest
   * @return what the best comes to at least
   */
  long near(Charges charges, long more, int most) {
    long[] charged = listed().charged(charges, more);
    long least = Listing.least(charged, unfilled().value());
    PlanTable table = listed().table();
    for (int row : PlanTable.cheapest(charged, least + more, most)) {
      option(new Row(table, row));
    }
    return Math.min(least, listed().unknownFrom(charges));
  }

  private Option option(Row row) {
    if (row.table() != listed().table()) {
      Takes takes = row.takes();
      return options.stream()
          .filter(o -> o.value() <= row.value() && o.takes().same(takes))
          .findFirst()
          .orElseGet(() -> add(row));
    }
    if (ofRow.length < row.table().size()) {
      ofRow = Arrays.copyOf(ofRow, row.table().size());
    }
    Option known = ofRow[row.number()];
    if (known == null) {
      known = add(row);
      ofRow[row.number()] = known;
    }
    return known;
  }

  private Option add(Row row) {
    Option option = new Option(() -> Optional.of(row.choice()), row.value(), row.takes());
    options.add(option);
    return option;
  }

  private Listing listed() {
    return Objects.requireNonNull(listing);
  }

  /** The least that anything known comes to with charges. */
  long least(Charges charges) {
    long least = Long.MAX_VALUE;
    for (Option option : options) {
      least = Math.min(least, charges.charged(option));
    }
    return least;
  }

  /** All that comes to less than this with charges is known. */
  void knows(Charges charges, long upTo) {
    asked = charges;
    knownUpTo = upTo;
  }

  /** The charges with which it was last asked what is best. */
  Charges asked() {
    return Objects.requireNonNull(asked);
  }

  /**
   * What is not known comes to no less than this.
   *
   * @param fall since it was asked
   */
  long unknownFrom(Fall fall) {
    return knownUpTo - fall.of(demand, consignments);
  }

  private long units() {
    return demand.lines().stream().mapToLong(OrderDemand.Line::quantity).sum();
  }
}
