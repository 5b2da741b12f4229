package dev.ordinator.rates;

import static dev.ordinator.schema.Tables.EXCHANGE_RATE;

import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.io.IOException;
import java.io.Reader;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Daily exchange rates to the base currency. */
@Service
public class ExchangeRates {
  /** Rates are not published on weekends and holidays: the last one before stands for so long. */
  private static final int STANDS_DAYS = 7;

  private static final int MOST_ROWS = 100_000;

  private final DSLContext db;
  private final OrdinatorSettings settings;
  private final Events events;
  private final ApplicationEventPublisher publisher;

  ExchangeRates(
      DSLContext db,
      OrdinatorSettings settings,
      Events events,
      ApplicationEventPublisher publisher) {
    this.db = db;
    this.settings = settings;
    this.events = events;
    this.publisher = publisher;
  }

  /**
   * @param rate base currency for one unit of {@code currency}
   */
  public record DayRate(String currency, LocalDate day, BigDecimal rate, String source) {}

  /** The rate of the merchant's day of that moment, or the last one published before it. */
  public Optional<ExchangeRate> at(String currency, Instant moment) {
    Currency base = Currency.getInstance(settings.baseCurrency());
    LocalDate day = LocalDate.ofInstant(moment, settings.timeZone());
    if (currency.equals(settings.baseCurrency())) {
      return Optional.of(ExchangeRate.same(base, day));
    }
    return db.select(EXCHANGE_RATE.RATE, EXCHANGE_RATE.DAY)
        .from(EXCHANGE_RATE)
        .where(EXCHANGE_RATE.CURRENCY.eq(currency))
        .and(EXCHANGE_RATE.DAY.between(day.minusDays(STANDS_DAYS), day))
        .orderBy(EXCHANGE_RATE.DAY.desc())
        .limit(1)
        .fetchOptional(
            r -> new ExchangeRate(Currency.getInstance(currency), base, r.value1(), r.value2()));
  }

  /** A rate that was kept. */
  public ExchangeRate of(String currency, BigDecimal rate, LocalDate day) {
    return new ExchangeRate(
        Currency.getInstance(currency), Currency.getInstance(settings.baseCurrency()), rate, day);
  }

  /** The latest rate of each currency. */
  List<DayRate> latest() {
    var newer = EXCHANGE_RATE.as("newer");
    return db.select(
            EXCHANGE_RATE.CURRENCY, EXCHANGE_RATE.DAY, EXCHANGE_RATE.RATE, EXCHANGE_RATE.SOURCE)
        .from(EXCHANGE_RATE)
        .leftAntiJoin(newer)
        .on(newer.CURRENCY.eq(EXCHANGE_RATE.CURRENCY))
        .and(newer.DAY.gt(EXCHANGE_RATE.DAY))
        .orderBy(EXCHANGE_RATE.CURRENCY)
        .fetch(r -> new DayRate(r.value1(), r.value2(), r.value3(), r.value4()));
  }

  /**
   * Reads rates from a CSV file with the columns currency, day and rate. All of it is taken, or
   * nothing.
   *
   * @return how many rates there were
   * @throws Problem with the row that is wrong
   */
  @Transactional
  public int read(Reader file, String source) throws IOException {
    List<DayRate> rates = new ArrayList<>();
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setHeader()
            .setSkipHeaderRecord(true)
            .setIgnoreHeaderCase(true)
            .setTrim(true)
            .get();
    try (var rows = format.parse(file)) {
      for (String column : List.of("currency", "day", "rate")) {
        if (!rows.getHeaderMap().containsKey(column)) {
          throw Problem.invalid("file", "the first row must name the columns currency, day, rate");
        }
      }
      for (CSVRecord row : rows) {
        if (rates.size() == MOST_ROWS) {
          throw Problem.invalid("file", "a file may hold " + MOST_ROWS + " rates");
        }
        rates.add(rate(row, source));
      }
    }
    keep(rates, source);
    return rates.size();
  }

  private void keep(List<DayRate> rates, String source) {
    db.batched(c ->
        rates.forEach(r ->
            c.dsl()
                .insertInto(EXCHANGE_RATE)
                .set(EXCHANGE_RATE.CURRENCY, r.currency())
                .set(EXCHANGE_RATE.DAY, r.day())
                .set(EXCHANGE_RATE.RATE, r.rate())
                .set(EXCHANGE_RATE.SOURCE, r.source())
                .onDuplicateKeyUpdate()
                .set(EXCHANGE_RATE.RATE, r.rate())
                .set(EXCHANGE_RATE.SOURCE, r.source())
                .execute()));
    events.record(
        EventKind.CHANNEL_CHANGED, null, null, source, rates.size() + " exchange rates read", "");
    publisher.publishEvent(new RatesCame(source));
  }

  private static DayRate rate(CSVRecord row, String source) {
    String place = "row " + (row.getRecordNumber() + 1);
    try {
      BigDecimal rate = new BigDecimal(row.get("rate"));
      if (rate.signum() <= 0 || rate.scale() > 8 || rate.precision() - rate.scale() > 10) {
        throw Problem.invalid(place, "‘" + row.get("rate") + "’ is no rate we can keep");
      }
      return new DayRate(
          Currency.getInstance(row.get("currency")).getCurrencyCode(),
          LocalDate.parse(row.get("day")),
          rate,
          source);
    } catch (DateTimeException e) {
      throw Problem.invalid(place, "‘" + row.get("day") + "’ is not a day such as 2026-11-24");
    } catch (NumberFormatException e) {
      throw Problem.invalid(place, "‘" + row.get("rate") + "’ is not a number");
    } catch (IllegalArgumentException e) {
      throw Problem.invalid(place, "not a currency and a rate: " + Texts.of(e));
    }
  }
}
