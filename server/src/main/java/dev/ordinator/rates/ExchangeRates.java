package dev.ordinator.rates;

import static dev.ordinator.schema.Tables.EXCHANGE_RATE;

import dev.ordinator.core.limits.Limits;
import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.Currency;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Daily exchange rates to the base currency. */
@Service
public class ExchangeRates {
  /** Rates are not published on weekends and holidays: the last one before stands for so long. */
  private static final int STANDS_DAYS = 7;

  /** The source of those that are fetched from where they are published. */
  static final String PUBLISHED = "published rates";

  /** What can be kept: such as 1234567890.12345678. */
  private static final int DECIMALS = 8;

  private static final int WHOLE_DIGITS = 10;

  /** A rate that is so many times the last one, or less than that part of it, is asked about. */
  private static final BigDecimal FAR = new BigDecimal("1.2");

  private static final int DAYS_COMPARED = 400;

  /** The name of the problem that a person may answer by saying that the rates are right. */
  private static final String LEAP = "leap";

  private final DSLContext db;
  private final OrdinatorSettings settings;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  ExchangeRates(
      DSLContext db,
      OrdinatorSettings settings,
      Events events,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.settings = settings;
    this.events = events;
    this.publisher = publisher;
    this.clock = clock;
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

  /** Rates of a currency, the latest first. */
  List<DayRate> history(String currency, int most) {
    return db.select(
            EXCHANGE_RATE.CURRENCY, EXCHANGE_RATE.DAY, EXCHANGE_RATE.RATE, EXCHANGE_RATE.SOURCE)
        .from(EXCHANGE_RATE)
        .where(EXCHANGE_RATE.CURRENCY.eq(currency))
        .orderBy(EXCHANGE_RATE.DAY.desc())
        .limit(most)
        .fetch(r -> new DayRate(r.value1(), r.value2(), r.value3(), r.value4()));
  }

  /**
   * Keeps rates, all of them or none. Those of days that are known already are corrected; orders
   * keep the rate that they were reckoned with.
   *
   * @param sure whether a person says that rates far from the last ones are right
   * @return how many there were
   * @throws Problem if one can't be a rate: of the base currency itself, of a day to come, or
   *     without that person's word far from the last one
   */
  @Transactional
  public int keep(List<DayRate> rates, boolean sure, String actor) {
    rates.forEach(this::check);
    if (!sure) {
      requireNear(rates);
    }
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
    noted(
        actor,
        rates.size() == 1
            ? "%s of %s is %s"
                .formatted(
                    rates.getFirst().currency(),
                    rates.getFirst().day(),
                    rates.getFirst().rate().toPlainString())
            : rates.size() + " exchange rates read");
    publisher.publishEvent(new RatesCame(actor));
    return rates.size();
  }

  /** Keeps what is published; what a person said of a day stands against it. */
  @Transactional
  public int keepPublished(List<DayRate> rates) {
    Set<String> said =
        new HashSet<>(
            db.select(EXCHANGE_RATE.CURRENCY, EXCHANGE_RATE.DAY)
                .from(EXCHANGE_RATE)
                .where(EXCHANGE_RATE.SOURCE.ne(PUBLISHED))
                .fetch(r -> r.value1() + r.value2()));
    return keep(
        rates.stream().filter(r -> !said.contains(r.currency() + r.day())).toList(),
        false,
        PUBLISHED);
  }

  /**
   * A rate that was wrong; the one before stands for its day, and orders keep theirs.
   *
   * @throws Problem if it is a published one, which would come again
   */
  @Transactional
  public void delete(String currency, LocalDate day, String actor) {
    boolean isPublished =
        db.fetchExists(
            EXCHANGE_RATE,
            EXCHANGE_RATE
                .CURRENCY
                .eq(currency)
                .and(EXCHANGE_RATE.DAY.eq(day))
                .and(EXCHANGE_RATE.SOURCE.eq(PUBLISHED)));
    if (isPublished) {
      throw Problem.conflict("it is published, and would come again: correct it instead");
    }
    int deleted =
        db.deleteFrom(EXCHANGE_RATE)
            .where(EXCHANGE_RATE.CURRENCY.eq(currency))
            .and(EXCHANGE_RATE.DAY.eq(day))
            .execute();
    if (deleted == 0) {
      throw Problem.notFound("rate of " + currency + " on " + day);
    }
    noted(actor, "%s of %s is taken back".formatted(currency, day));
  }

  private void noted(String actor, String what) {
    events.record(EventKind.CHANNEL_CHANGED, null, null, actor, "Exchange rates: " + what, "");
  }

  private void check(DayRate rate) {
    String what = rate.currency() + " of " + rate.day();
    if (rate.currency().equals(settings.baseCurrency())) {
      throw Problem.invalid("currency", rate.currency() + " is our own currency; it is always 1");
    }
    if (!Limits.holds(rate.day())) {
      throw Problem.invalid("day", what + ": no rate is of that day");
    }
    // elsewhere it is tomorrow already
    if (rate.day().isAfter(LocalDate.ofInstant(clock.instant(), settings.timeZone()).plusDays(1))) {
      throw Problem.invalid("day", what + ": that day is still to come");
    }
    BigDecimal value = rate.rate();
    if (value.signum() <= 0
        || value.stripTrailingZeros().scale() > DECIMALS
        || (long) value.precision() - value.scale() > WHOLE_DIGITS) {
      // written out in full, an exponent could take all memory
      throw Problem.invalid(
          "rate", "%s: %s is no rate we can keep".formatted(what, Texts.cut(value.toString(), 40)));
    }
  }

  /** A decimal comma misread or a rate upside down shows by how far it is from the last one. */
  private void requireNear(List<DayRate> rates) {
    Map<String, TreeMap<LocalDate, BigDecimal>> all = new HashMap<>();
    for (DayRate rate : rates.stream().sorted(Comparator.comparing(DayRate::day)).toList()) {
      TreeMap<LocalDate, BigDecimal> days = all.computeIfAbsent(rate.currency(), this::known);
      Map.Entry<LocalDate, BigDecimal> last = days.lowerEntry(rate.day());
      if (last != null && isFar(rate.rate(), last.getValue())) {
        throw Problem.invalid(
            LEAP,
            "%s of %s: %s is far from %s, that of %s; say that it is right, or correct it"
                .formatted(
                    rate.currency(),
                    rate.day(),
                    rate.rate().stripTrailingZeros().toPlainString(),
                    last.getValue().stripTrailingZeros().toPlainString(),
                    last.getKey()));
      }
      days.put(rate.day(), rate.rate());
    }
  }

  private TreeMap<LocalDate, BigDecimal> known(String currency) {
    TreeMap<LocalDate, BigDecimal> days = new TreeMap<>();
    history(currency, DAYS_COMPARED).forEach(r -> days.put(r.day(), r.rate()));
    return days;
  }

  private static boolean isFar(BigDecimal rate, BigDecimal last) {
    return rate.compareTo(last.multiply(FAR)) > 0 || rate.multiply(FAR).compareTo(last) < 0;
  }
}
