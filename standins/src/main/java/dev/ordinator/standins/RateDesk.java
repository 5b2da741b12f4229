package dev.ordinator.standins;

import java.io.IOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Map;
import java.util.TreeMap;

/**
 * Publishes exchange rates as CSV: what one unit of each currency was worth in euro on each day.
 */
public final class RateDesk implements AutoCloseable {
  private static final Map<String, String> ABOUT =
      new TreeMap<>(
          Map.of(
              "CHF", "1.0640", "DKK", "0.1340", "GBP", "1.1590", "PLN", "0.2330", "SEK", "0.0880",
              "USD", "0.8830"));
  private static final int DAYS = 90;

  private final Faults faults = new Faults();
  private final Web web;
  private final WorldClock clock;

  RateDesk(int port, WorldClock clock) throws IOException {
    this.clock = clock;
    web = new Web(port, request -> faults.apply(r -> answer(), request));
  }

  public int port() {
    return web.port();
  }

  public String url() {
    return "http://127.0.0.1:" + web.port() + "/rates.csv";
  }

  public Faults faults() {
    return faults;
  }

  /** Rates move a little from day to day, and are the same whenever they are asked for. */
  private Web.Answer answer() {
    StringBuilder csv = new StringBuilder("currency,day,rate\n");
    LocalDate today = LocalDate.ofInstant(clock.now(), ZoneOffset.UTC);
    for (LocalDate day = today.minusDays(DAYS); !day.isAfter(today); day = day.plusDays(1)) {
      for (Map.Entry<String, String> about : ABOUT.entrySet()) {
        double wave = 1 + 0.01 * Math.sin(day.toEpochDay() / 9.0 + about.getKey().hashCode());
        csv.append(about.getKey())
            .append(',')
            .append(day)
            .append(',')
            .append(
                new BigDecimal(about.getValue())
                    .multiply(BigDecimal.valueOf(wave))
                    .setScale(6, RoundingMode.HALF_EVEN)
                    .toPlainString())
            .append('\n');
      }
    }
    return Web.Answer.text(200, "text/csv;charset=utf-8", csv.toString());
  }

  @Override
  public void close() {
    web.close();
  }
}
