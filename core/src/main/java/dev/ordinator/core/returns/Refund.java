package dev.ordinator.core.returns;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.money.Shares;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What is paid back, for what, and by which tender. In the order's currency.
 *
 * @param units by line, as the channel counts them
 * @param lines by line: the price of those units
 * @param shipping of the shipping charge
 * @param excess of what was paid too much, and belongs to no line
 * @param fee kept back for restocking
 * @param tenders by tender, none more than was captured by it and not paid back yet
 * @param total Σ lines + shipping + excess − fee = Σ tenders
 */
public record Refund(
    Map<String, Long> units,
    Map<String, Money> lines,
    Money shipping,
    Money excess,
    Money fee,
    Map<String, Money> tenders,
    Money total) {

  /**
   * What somebody wants paid back.
   *
   * @param units by line, as the channel counts them
   * @param excess of what was paid too much, and belongs to no line
   */
  public record Asked(Map<String, Long> units, Money shipping, Money excess, Money fee) {}

  /**
   * Works a refund out. The chosen units' price is their share of what is left of the line, split
   * by largest remainder, so that refunding a line in any number of steps pays back exactly what
   * was paid for it. The total is split over the tenders in proportion to what is left in each,
   * likewise.
   *
   * @throws IllegalArgumentException if more is asked than was bought, paid or captured, or nothing
   */
  public static Refund of(Bought bought, Asked asked) {
    Map<String, Money> lines = new LinkedHashMap<>();
    Money total = asked.shipping().plus(asked.excess()).minus(asked.fee());
    for (Map.Entry<String, Long> wanted : asked.units().entrySet()) {
      Bought.Line line = line(bought, wanted.getKey());
      Money price = price(line, wanted.getValue());
      lines.put(line.id(), price);
      total = total.plus(price);
    }
    if (asked.shipping().minor() < 0 || asked.excess().minor() < 0 || asked.fee().minor() < 0) {
      throw new IllegalArgumentException("an amount is negative");
    }
    if (asked.excess().minor() > bought.excess().minor()) {
      throw new IllegalArgumentException("only %s was paid too much".formatted(bought.excess()));
    }
    if (asked.shipping().minor() > bought.shippingLeft().minor()) {
      throw new IllegalArgumentException(
          "only %s of the shipping can be paid back".formatted(bought.shippingLeft()));
    }
    if (total.minor() <= 0) {
      throw new IllegalArgumentException("nothing is left to pay back");
    }
    if (total.minor() > bought.left().minor()) {
      throw new IllegalArgumentException(
          "%s is more than the %s that came in and was not paid back yet"
              .formatted(total, bought.left()));
    }
    return new Refund(
        asked.units(),
        lines,
        asked.shipping(),
        asked.excess(),
        asked.fee(),
        byTender(bought, total),
        total);
  }

  /**
   * What somebody else has paid back, for reasons of their own: of no line in particular, over the
   * tenders as ever, and counted at most up to what came in.
   *
   * @param amount positive
   * @return with a total of zero if nothing is left that could have been paid back
   */
  public static Refund byOthers(Bought bought, Money amount) {
    Money zero = bought.zero();
    Money total = amount.minor() <= bought.left().minor() ? amount : bought.left();
    return total.minor() <= 0
        ? new Refund(Map.of(), Map.of(), zero, zero, zero, Map.of(), zero)
        : new Refund(Map.of(), Map.of(), zero, zero, zero, byTender(bought, total), total);
  }

  /**
   * What came in for units that were cancelled and was not paid back yet: the price of those of
   * which nothing was, and what was paid too much; at most what is left of all that came in.
   *
   * @param cancelled units by line, as the channel counts them
   */
  public static Money owedFor(Map<String, Long> cancelled, Bought bought) {
    Money owed = bought.excess();
    for (Bought.Line line : bought.lines()) {
      long units =
          Math.min(cancelled.getOrDefault(line.id(), 0L) - line.unitsRefunded(), line.unitsLeft());
      if (units > 0) {
        owed = owed.plus(price(line, units));
      }
    }
    return owed.minor() <= bought.left().minor() ? owed : bought.left();
  }

  private static Bought.Line line(Bought bought, String id) {
    return bought.lines().stream()
        .filter(l -> l.id().equals(id))
        .findFirst()
        .orElseThrow(() -> new IllegalArgumentException("line " + id + " was not bought"));
  }

  private static Money price(Bought.Line line, long units) {
    if (units < 1 || units > line.unitsLeft()) {
      throw new IllegalArgumentException(
          "%d units can be refunded of line %s, not %d"
              .formatted(line.unitsLeft(), line.id(), units));
    }
    long[] parts = Shares.split(line.left().minor(), units, line.unitsLeft() - units);
    return new Money(parts[0], line.paid().currency());
  }

  private static Map<String, Money> byTender(Bought bought, Money total) {
    List<Bought.Tender> tenders = new ArrayList<>(bought.tenders());
    tenders.removeIf(t -> t.left().minor() <= 0);
    long[] parts =
        Shares.split(total.minor(), tenders.stream().mapToLong(t -> t.left().minor()).toArray());
    Map<String, Money> byTender = new LinkedHashMap<>();
    for (int i = 0; i < parts.length; i++) {
      if (parts[i] > 0) {
        byTender.put(tenders.get(i).id(), new Money(parts[i], total.currency()));
      }
    }
    return byTender;
  }
}
