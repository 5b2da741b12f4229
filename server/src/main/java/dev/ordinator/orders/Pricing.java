package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.TAX_RATE;

import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.money.Shares;
import dev.ordinator.core.money.TaxRate;
import dev.ordinator.core.orders.Charges;
import dev.ordinator.orders.ReadyOrder.Figures;
import dev.ordinator.orders.ReadyOrder.LineFigures;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Events.Fact;
import dev.ordinator.rates.ExchangeRates;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** What orders cost: discounts spread, tax found, and the total in the base currency. */
@Service
public class Pricing {
  private final DSLContext db;
  private final ExchangeRates rates;
  private final Events events;

  Pricing(DSLContext db, ExchangeRates rates, Events events) {
    this.db = db;
    this.rates = rates;
    this.events = events;
  }

  /**
   * @param whole with the units that are no longer wanted
   * @param ordered what is open of it
   * @param units of the item, open
   */
  private record Row(
      long id,
      boolean matched,
      Charges.Ordered whole,
      Charges.Ordered ordered,
      boolean computed,
      long units) {}

  /** An item as an order's line needs it to be priced. */
  public record Priced(long itemId, long unitsEach, String taxClass) {}

  /** Tax rates in hundredths of a per cent, by country and then by class. */
  public record TaxTable(Map<String, Map<String, Integer>> byCountry) {
    TaxRate rate(String country, @Nullable String taxClass) {
      return taxClass == null
          ? TaxRate.NONE
          : new TaxRate(byCountry.getOrDefault(country, Map.of()).getOrDefault(taxClass, 0));
    }
  }

  /**
   * What settling an order's figures has shown.
   *
   * @param rateIsKnown false if the day's rate of the order's currency is not known yet
   * @param contradiction that the channel's total is not what its parts add up to, in words; empty
   *     if it is, or a person has said that it stands
   */
  public record Settled(boolean rateIsKnown, Optional<String> contradiction) {}

  /**
   * Settles an order's figures. A line without an item has no tax class: until all are matched, the
   * order's tax is left open. A total that the channel told is what the buyer was told, and stands;
   * what is cancelled later goes off it at its price.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public Settled settle(long orderId) {
    var order =
        db.select(
                SALES_ORDER.CURRENCY,
                SALES_ORDER.SHIP_COUNTRY,
                SALES_ORDER.DISCOUNT,
                SALES_ORDER.SHIPPING_CHARGE,
                SALES_ORDER.TOLD_TOTAL,
                SALES_ORDER.PRICES_WITH_TAX,
                SALES_ORDER.PLACED_AT,
                SALES_ORDER.RATE,
                SALES_ORDER.RATE_DAY,
                SALES_ORDER.TOLD_OVER,
                SALES_ORDER.TOTAL_STANDS)
            .from(SALES_ORDER)
            .where(SALES_ORDER.ID.eq(orderId))
            .fetchSingle();
    String currency = order.value1();
    List<Row> rows = rows(orderId, currency, order.value2());
    boolean matched = rows.stream().allMatch(Row::matched);
    Money discount = Money.of(order.value3(), currency);
    Money shipping = Money.of(order.value4(), currency);
    Charges charges = charges(rows, discount, shipping, order.value6());
    for (int i = 0; i < rows.size(); i++) {
      keep(rows.get(i), charges.lines().get(i), matched);
    }
    Optional<ExchangeRate> rate =
        order.value8() == null
            ? rates.at(currency, order.value7())
            : Optional.of(rates.of(currency, order.value8(), order.value9()));
    Long told = order.value5();
    Long over = order.value10();
    if (told != null && over == null && matched) {
      over = over(told, charges, charges(whole(rows), discount, shipping, order.value6()));
    }
    Money total = total(charges, rows, told, over);
    db.update(SALES_ORDER)
        .set(SALES_ORDER.TAX, matched ? charges.tax().minor() : null)
        .set(SALES_ORDER.UNITS, rows.stream().mapToLong(Row::units).sum())
        .set(SALES_ORDER.TOLD_OVER, over)
        .set(SALES_ORDER.TOTAL, total.minor())
        .set(SALES_ORDER.RATE, rate.map(ExchangeRate::rate).orElse(null))
        .set(SALES_ORDER.RATE_DAY, rate.map(ExchangeRate::day).orElse(null))
        .set(SALES_ORDER.BASE_TOTAL, rate.map(r -> r.convert(total).minor()).orElse(0L))
        .where(SALES_ORDER.ID.eq(orderId))
        .execute();
    if (over != null && over != 0 && order.value10() == null) {
      events.recordAll(Map.of(orderId, List.of(differs(total, charges.total()))));
    }
    boolean contradicts = over != null && !order.value11() && contradicts(over, rows.size());
    return new Settled(
        rate.isPresent(),
        contradicts ? Optional.of(words(total, charges.total())) : Optional.empty());
  }

  /**
   * What a channel's total is above what its parts add up to. Some channels tell it with, others
   * without the units that are no longer wanted: it is the one that fits.
   */
  private static long over(long told, Charges open, Charges whole) {
    long overOpen = told - open.total().minor();
    long overWhole = told - whole.total().minor();
    return Math.abs(overWhole) < Math.abs(overOpen) ? overWhole : overOpen;
  }

  private static List<Row> whole(List<Row> rows) {
    return rows.stream()
        .map(r ->
            new Row(r.id(), r.matched(), r.whole(), r.whole(), r.computed(), r.whole().quantity()))
        .toList();
  }

  /** Nothing is owed for what is cancelled whole. */
  private static Money total(
      Charges charges, List<Row> rows, @Nullable Long told, @Nullable Long over) {
    if (told == null || rows.stream().allMatch(row -> row.units() == 0)) {
      return charges.total();
    }
    Currency currency = charges.total().currency();
    return over == null
        ? new Money(told, currency)
        : new Money(Math.max(0, charges.total().minor() + over), currency);
  }

  /** A channel may round each line and shipping in its own way; what is more is no rounding. */
  private static boolean contradicts(long over, int lines) {
    return Math.abs(over) > lines + 1;
  }

  /** A person says that the channel's total stands, whatever its parts add up to. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void letTotalStand(long orderId) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.TOTAL_STANDS, true)
        .where(SALES_ORDER.ID.eq(orderId))
        .execute();
  }

  /**
   * The figures of an order that is not written down yet, as {@link #settle} would find them.
   *
   * @param items of its lines, one for each
   */
  public Figures figures(NewOrder order, List<Priced> items, TaxTable taxes, ExchangeRate rate) {
    NewOrder.Header header = order.header();
    List<Row> rows = new ArrayList<>();
    for (int i = 0; i < order.lines().size(); i++) {
      NewOrder.Line line = order.lines().get(i);
      Priced item = items.get(i);
      rows.add(
          row(
              i,
              line.quantity(),
              line.cancelled(),
              item.unitsEach(),
              line.unitPrice(),
              line.discount().minor(),
              line.tax(),
              taxes.rate(header.shipTo().country(), item.taxClass()),
              true));
    }
    Charges charges =
        charges(rows, header.discount(), header.shippingCharge(), header.pricesWithTax());
    Money told = header.total();
    Long over =
        told == null
            ? null
            : over(
                told.minor(),
                charges,
                charges(
                    whole(rows),
                    header.discount(),
                    header.shippingCharge(),
                    header.pricesWithTax()));
    Money total = total(charges, rows, told == null ? null : told.minor(), over);
    List<LineFigures> lines = new ArrayList<>();
    for (int i = 0; i < rows.size(); i++) {
      Charges.Line charge = charges.lines().get(i);
      boolean computed = rows.get(i).computed();
      lines.add(
          new LineFigures(
              items.get(i).itemId(),
              items.get(i).unitsEach(),
              charge.orderDiscount().minor(),
              charge.tax().minor(),
              computed ? rows.get(i).ordered().rate().hundredths() : null));
    }
    return new Figures(
        lines,
        charges.tax().minor(),
        rows.stream().mapToLong(Row::units).sum(),
        total.minor(),
        rate,
        rate.convert(total).minor(),
        over,
        total.equals(charges.total()) ? List.of() : List.of(differs(total, charges.total())));
  }

  /** Whether the channel's total is not what the parts of an order add up to. */
  public boolean contradicts(NewOrder order, Figures figures) {
    return figures.toldOver() != null && contradicts(figures.toldOver(), order.lines().size());
  }

  /** All tax rates there are. */
  public TaxTable taxTable() {
    return new TaxTable(
        db.select(TAX_RATE.COUNTRY, TAX_RATE.CLASS, TAX_RATE.RATE)
            .from(TAX_RATE)
            .collect(
                Collectors.groupingBy(
                    r -> r.value1(), Collectors.toMap(r -> r.value2(), r -> r.value3()))));
  }

  private static Charges charges(
      List<Row> rows, Money discount, Money shipping, boolean pricesWithTax) {
    long goods = rows.stream().mapToLong(r -> amount(r.ordered())).reduce(0, Math::addExact);
    return Charges.of(
        rows.stream().map(Row::ordered).toList(),
        new Money(Math.min(discount.minor(), goods), discount.currency()),
        rows.stream().allMatch(row -> row.units() == 0)
            ? new Money(0, shipping.currency())
            : shipping,
        pricesWithTax);
  }

  private static Fact differs(Money told, Money added) {
    return new Fact(
        EventKind.NOTE,
        "desk",
        words(told, added),
        "the channel’s total is what the buyer was told, and stands");
  }

  private static String words(Money told, Money added) {
    return "The channel’s total is %s, its parts add up to %s".formatted(told, added);
  }

  private List<Row> rows(long orderId, String currency, String country) {
    TaxTable taxes =
        new TaxTable(
            Map.of(
                country,
                db.select(TAX_RATE.CLASS, TAX_RATE.RATE)
                    .from(TAX_RATE)
                    .where(TAX_RATE.COUNTRY.eq(country))
                    .fetchMap(TAX_RATE.CLASS, TAX_RATE.RATE)));
    return db.select(
            ORDER_LINE.ID,
            ORDER_LINE.QUANTITY,
            ORDER_LINE.CANCELLED,
            ORDER_LINE.UNITS_EACH,
            ORDER_LINE.UNIT_PRICE,
            ORDER_LINE.DISCOUNT,
            ORDER_LINE.TAX,
            ORDER_LINE.TAX_RATE,
            ITEM.TAX_CLASS)
        .from(ORDER_LINE)
        .leftJoin(ITEM)
        .on(ITEM.ID.eq(ORDER_LINE.ITEM_ID))
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .orderBy(ORDER_LINE.LINE_NO)
        .fetch(r -> {
          boolean computed = r.value7() == null || r.value8() != null;
          return row(
              r.value1(),
              r.value2(),
              r.value3(),
              r.value4(),
              Money.of(r.value5(), currency),
              r.value6(),
              computed ? null : Money.of(r.value7(), currency),
              taxes.rate(country, r.value9()),
              r.value9() != null);
        });
  }

  /** A line with what is open of it; its discount is shared with what was cancelled. */
  private static Row row(
      long id,
      long quantity,
      long cancelled,
      long unitsEach,
      Money unitPrice,
      long discount,
      @Nullable Money sentTax,
      TaxRate rate,
      boolean matched) {
    long open = quantity - cancelled;
    long openDiscount = open == 0 ? 0 : Shares.split(discount, open, cancelled)[0];
    return new Row(
        id,
        matched || open == 0,
        new Charges.Ordered(
            unitPrice, quantity, new Money(discount, unitPrice.currency()), sentTax, rate),
        new Charges.Ordered(
            unitPrice, open, new Money(openDiscount, unitPrice.currency()), sentTax, rate),
        sentTax == null,
        open * unitsEach);
  }

  private void keep(Row row, Charges.Line charge, boolean matched) {
    var update =
        db.update(ORDER_LINE).set(ORDER_LINE.ORDER_DISCOUNT, charge.orderDiscount().minor());
    if (row.computed() && matched) {
      update =
          update
              .set(ORDER_LINE.TAX, charge.tax().minor())
              .set(ORDER_LINE.TAX_RATE, row.ordered().rate().hundredths());
    }
    update.where(ORDER_LINE.ID.eq(row.id())).execute();
  }

  private static long amount(Charges.Ordered line) {
    return line.unitPrice().times(line.quantity()).minus(line.discount()).minor();
  }
}
