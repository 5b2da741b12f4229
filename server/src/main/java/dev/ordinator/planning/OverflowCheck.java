package dev.ordinator.planning;

import static dev.ordinator.planning.Place.DOCUMENT;

import dev.ordinator.planning.PlanningCase.CaseHandling;
import dev.ordinator.planning.PlanningCase.CaseItem;
import dev.ordinator.planning.PlanningCase.CaseLane;
import dev.ordinator.planning.PlanningCase.CaseLine;
import dev.ordinator.planning.PlanningCase.CaseOrder;
import dev.ordinator.planning.PlanningCase.CasePolicy;
import dev.ordinator.planning.PlanningCase.CaseStep;
import java.math.BigInteger;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Whether what a case can cost and weigh at most fits into 64 bits, whatever the plans: so nothing
 * overflows while it is solved. The bounds are generous; no real network comes near them.
 */
final class OverflowCheck {
  /** Of the sums of a whole case; some room is left for what the search adds up. */
  private static final BigInteger MOST = BigInteger.TWO.pow(60);

  private static final long DAYS = 100 * 366L;

  /** In which an order may go from one node: each is a step of the prices that are searched. */
  private static final long MOST_PARCELS = 10_000;

  private final Map<String, CaseItem> items = new HashMap<>();
  private final Map<String, Long> dearest = new HashMap<>();
  private final long nodes;
  private final long perConsignment;
  private final long perLine;
  private final long perUnit;
  private final long highestPrice;
  private final long lowestTop;
  private final long divisor;

  private OverflowCheck(PlanningCase c) {
    list(c.items()).forEach(item -> items.put(item.sku(), item));
    list(c.stock())
        .forEach(s ->
            dearest.merge(
                s.sku(), Math.max(or0(s.purchasePrice()), or0(s.clearanceCredit())), Math::max));
    CasePolicy policy =
        Objects.requireNonNullElse(c.policy(), new CasePolicy(null, null, null, null, null));
    CaseHandling none = new CaseHandling(0L, 0L, 0L);
    List<CaseHandling> handling =
        list(c.nodes()).stream().map(n -> Objects.requireNonNullElse(n.handling(), none)).toList();
    this.nodes = Math.max(1, handling.size());
    this.perConsignment =
        most(handling.stream().map(CaseHandling::perConsignment))
            + or(policy.splitPenalty(), 300)
            + or(policy.latePenaltyPerDay(), 250) * DAYS;
    this.perLine = most(handling.stream().map(CaseHandling::perLine));
    this.perUnit =
        most(handling.stream().map(CaseHandling::perUnit))
            + or(policy.unfilledPenaltyPerUnit(), 5_000);
    List<CaseStep> steps =
        list(c.lanes()).stream().map(CaseLane::rates).flatMap(r -> list(r).stream()).toList();
    this.highestPrice = most(steps.stream().map(CaseStep::price));
    this.lowestTop =
        list(c.lanes()).stream()
            .mapToLong(lane -> most(list(lane.rates()).stream().map(CaseStep::upTo)))
            .min()
            .orElse(1);
    this.divisor = Math.max(1, or(policy.volumeDivisor(), 5_000));
  }

  /**
   * @param c sound in all else
   * @throws CaseError with the order that makes it too large
   */
  static void check(PlanningCase c) {
    OverflowCheck bounds = new OverflowCheck(c);
    CasePolicy policy = c.policy();
    BigInteger steps =
        big(policy == null ? 2_000 : or(policy.rungStep(), 2_000))
            .multiply(big(1 + list(c.ladder()).size()));
    BigInteger all = BigInteger.ZERO;
    List<CaseOrder> orders = list(c.orders());
    for (int i = 0; i < orders.size(); i++) {
      String lines = DOCUMENT.of("orders").of(i).of("lines").toString();
      all = all.add(steps).add(bounds.of(orders.get(i), lines));
      if (all.compareTo(MOST) > 0) {
        throw new CaseError(
            lines, "quantities, weights and prices are so large that they can’t be added up");
      }
    }
  }

  /** More than an order can cost, or weigh in thousandths of grams. */
  private BigInteger of(CaseOrder order, String lines) {
    BigInteger cost = big(nodes).multiply(big(perConsignment));
    BigInteger grams = BigInteger.ZERO;
    BigInteger volume = BigInteger.ZERO;
    for (CaseLine line : list(order.lines())) {
      CaseItem item = Objects.requireNonNull(items.get(line.sku()));
      BigInteger units = big(line.quantity());
      grams = grams.add(units.multiply(big(or0(item.weight()))));
      volume = volume.add(units.multiply(big(or0(item.volume()))));
      cost =
          cost.add(units.multiply(big(perUnit).add(big(dearest.getOrDefault(line.sku(), 0L)))))
              .add(big(nodes).multiply(big(perLine)));
    }
    BigInteger thousandths = volume.multiply(big(1_000)).max(grams);
    BigInteger billable = grams.max(volume.multiply(big(1_000)).divide(big(divisor)));
    BigInteger full = billable.divide(big(Math.max(1, lowestTop)));
    if (full.compareTo(big(MOST_PARCELS)) > 0) {
      throw new CaseError(
          lines,
          "they weigh so much that they would go in more than %,d parcels".formatted(MOST_PARCELS));
    }
    BigInteger parcels = full.add(big(nodes + 1));
    return cost.add(parcels.multiply(big(highestPrice))).max(thousandths);
  }

  private static long most(Stream<@Nullable Long> numbers) {
    return numbers.mapToLong(OverflowCheck::or0).max().orElse(0);
  }

  private static long or0(@Nullable Long number) {
    return or(number, 0);
  }

  private static long or(@Nullable Long number, long otherwise) {
    return number == null ? otherwise : number;
  }

  private static BigInteger big(long number) {
    return BigInteger.valueOf(number);
  }

  private static <T> List<T> list(@Nullable List<T> list) {
    return list == null ? List.of() : list;
  }
}
