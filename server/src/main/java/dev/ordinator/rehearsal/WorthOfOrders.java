package dev.ordinator.rehearsal;

import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.channels.Terms;
import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Proceeds;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.rates.ExchangeRates;
import dev.ordinator.routing.Wanted;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.function.LongFunction;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** What orders earn before they are sent. */
@Component
class WorthOfOrders {
  private final DSLContext db;
  private final ExchangeRates rates;
  private final OrdinatorSettings settings;

  WorthOfOrders(DSLContext db, ExchangeRates rates, OrdinatorSettings settings) {
    this.db = db;
    this.rates = rates;
    this.settings = settings;
  }

  /**
   * Margins before carriage and handling, in minor units of the base currency, by orders' ids; an
   * order whose rate is not known is left out.
   */
  Map<Long, Long> of(Map<Long, Wanted> wanted, LongFunction<Terms> terms) {
    Map<Long, Long> worth = new HashMap<>();
    db.select(
            SALES_ORDER.ID,
            SALES_ORDER.CHANNEL_ID,
            SALES_ORDER.CURRENCY,
            SALES_ORDER.TOTAL,
            SALES_ORDER.TAX,
            SALES_ORDER.RATE,
            SALES_ORDER.RATE_DAY)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.in(wanted.keySet()))
        .and(SALES_ORDER.RATE.isNotNull())
        .forEach(r -> {
          String currency = r.value3();
          Terms its = terms.apply(r.value2());
          Proceeds proceeds =
              new Proceeds(
                  Money.of(r.value4(), currency),
                  Money.of(Objects.requireNonNullElse(r.value5(), 0L), currency),
                  its.feeHundredths(),
                  Money.of(its.fixedFee(), currency));
          ExchangeRate rate = rates.of(currency, r.value6(), r.value7());
          long cost = Objects.requireNonNull(wanted.get(r.value1())).cost();
          worth.put(
              r.value1(), proceeds.less(Money.of(cost, settings.baseCurrency()), rate).minor());
        });
    return worth;
  }
}
