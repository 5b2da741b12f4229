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
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.rates.ExchangeRates;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
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

  private record Row(
      long id, boolean matched, Charges.Ordered ordered, boolean computed, long units) {}

  /**
   * Settles an order's figures. A line without an item has no tax class: until all are matched, the
   * order's tax is left open.
   *
   * @return false if the day's rate of the order's currency is not known yet
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public boolean settle(long orderId) {
    var order =
        db.select(
                SALES_ORDER.CURRENCY,
                SALES_ORDER.SHIP_COUNTRY,
                SALES_ORDER.DISCOUNT,
                SALES_ORDER.SHIPPING_CHARGE,
                SALES_ORDER.TOTAL,
                SALES_ORDER.PRICES_WITH_TAX,
                SALES_ORDER.PLACED_AT,
                SALES_ORDER.RATE,
                SALES_ORDER.RATE_DAY,
                SALES_ORDER.TAX)
            .from(SALES_ORDER)
            .where(SALES_ORDER.ID.eq(orderId))
            .fetchSingle();
    String currency = order.value1();
    List<Row> rows = rows(orderId, currency, order.value2());
    boolean matched = rows.stream().allMatch(Row::matched);
    long goods = rows.stream().mapToLong(r -> amount(r.ordered())).sum();
    Charges charges =
        Charges.of(
            rows.stream().map(Row::ordered).toList(),
            Money.of(Math.min(order.value3(), goods), currency),
            Money.of(goods == 0 ? 0 : order.value4(), currency),
            order.value6());
    for (int i = 0; i < rows.size(); i++) {
      keep(rows.get(i), charges.lines().get(i), matched);
    }
    Optional<ExchangeRate> rate =
        order.value8() == null
            ? rates.at(currency, order.value7())
            : Optional.of(rates.of(currency, order.value8(), order.value9()));
    long total = order.value5() == 0 ? charges.total().minor() : order.value5();
    db.update(SALES_ORDER)
        .set(SALES_ORDER.TAX, matched ? charges.tax().minor() : null)
        .set(SALES_ORDER.UNITS, rows.stream().mapToLong(Row::units).sum())
        .set(SALES_ORDER.TOTAL, total)
        .set(SALES_ORDER.RATE, rate.map(ExchangeRate::rate).orElse(null))
        .set(SALES_ORDER.RATE_DAY, rate.map(ExchangeRate::day).orElse(null))
        .set(
            SALES_ORDER.BASE_TOTAL,
            rate.map(r -> r.convert(Money.of(total, currency)).minor()).orElse(0L))
        .where(SALES_ORDER.ID.eq(orderId))
        .execute();
    if (matched && order.value10() == null && total != charges.total().minor()) {
      events.record(
          EventKind.NOTE,
          orderId,
          null,
          "desk",
          "The channel’s total is %s, its parts add up to %s"
              .formatted(Money.of(total, currency), charges.total()),
          "the channel’s total is what the buyer was told, and stands");
    }
    return rate.isPresent();
  }

  private List<Row> rows(long orderId, String currency, String country) {
    Map<String, Integer> taxRates =
        db.select(TAX_RATE.CLASS, TAX_RATE.RATE)
            .from(TAX_RATE)
            .where(TAX_RATE.COUNTRY.eq(country))
            .fetchMap(TAX_RATE.CLASS, TAX_RATE.RATE);
    List<Row> rows = new ArrayList<>();
    db.select(
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
        .forEach(r -> {
          long open = r.value2() - r.value3();
          long discount = Shares.split(r.value6(), open, r.value3())[0];
          boolean computed = r.value7() == null || r.value8() != null;
          Money sent = computed ? null : Money.of(r.value7(), currency);
          TaxRate rate =
              r.value9() == null ? TaxRate.NONE : new TaxRate(taxRates.getOrDefault(r.value9(), 0));
          rows.add(
              new Row(
                  r.value1(),
                  r.value9() != null || open == 0,
                  new Charges.Ordered(
                      Money.of(r.value5(), currency),
                      open,
                      Money.of(open == 0 ? 0 : discount, currency),
                      sent,
                      rate),
                  computed,
                  open * r.value4()));
        });
    return rows;
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
