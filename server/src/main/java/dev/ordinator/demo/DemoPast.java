package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.CHANNEL;

import dev.ordinator.demo.ClubFiles.ClubFile;
import dev.ordinator.feed.Feed;
import dev.ordinator.intake.HistoryIntake;
import dev.ordinator.intake.HistoryIntake.PastMessage;
import dev.ordinator.network.NetworkHistory;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.rates.RateFetch;
import dev.ordinator.rehearsal.Rehearsals;
import dev.ordinator.stock.LevelDays;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;
import org.springframework.web.client.RestClient;

/**
 * The demo world and its past: the real services, driven through some weeks by a clock that is set,
 * with the stand-ins running. It is a function of a seed and of the moment at which it ends. What
 * would happen after that has not happened yet, so that orders stand at every stage; and each
 * trouble of the trade is there, whatever the day.
 */
@Component
@Profile("seed")
public class DemoPast {
  private static final Logger LOG = LoggerFactory.getLogger(DemoPast.class);
  private static final String MANAGER = "Mara";
  private static final int REPORT_EVERY = 800;
  private static final int REHEARSED_DAYS = 30;
  private static final int PULL_SECONDS = 15;

  private final DSLContext db;
  private final SetClock clock;
  private final OrdinatorSettings settings;
  private final DemoWorld world;
  private final DemoStock stock;
  private final DemoSuppliers suppliers;
  private final DemoBackorders backorders;
  private final DemoRefunds refunds;
  private final DemoRulebook rulebook;
  private final DemoLife life;
  private final HistoryIntake intake;
  private final LevelDays levels;
  private final NetworkHistory networkHistory;
  private final RateFetch rates;
  private final Rehearsals rehearsals;
  private final Feed feed;
  private final RestClient http = RestClient.create();

  DemoPast(
      DSLContext db,
      SetClock clock,
      OrdinatorSettings settings,
      DemoWorld world,
      DemoStock stock,
      DemoSuppliers suppliers,
      DemoBackorders backorders,
      DemoRefunds refunds,
      DemoRulebook rulebook,
      DemoLife life,
      HistoryIntake intake,
      LevelDays levels,
      NetworkHistory networkHistory,
      RateFetch rates,
      Rehearsals rehearsals,
      Feed feed) {
    this.db = db;
    this.clock = clock;
    this.settings = settings;
    this.world = world;
    this.stock = stock;
    this.suppliers = suppliers;
    this.backorders = backorders;
    this.refunds = refunds;
    this.rulebook = rulebook;
    this.life = life;
    this.intake = intake;
    this.levels = levels;
    this.networkHistory = networkHistory;
    this.rates = rates;
    this.rehearsals = rehearsals;
    this.feed = feed;
  }

  /** Where the channels' stand-ins are. */
  public record Channels(String shop, String market, String guild) {}

  /**
   * @param end the moment at which the past ends
   * @param seed the same gives the same world, for the same end
   * @param days how long it lasts, three weeks at least: returns take their time
   * @param orders of the web shop; the others have a share of as many
   */
  public record Wanted(Instant end, long seed, int days, int orders) {}

  /** Fills an empty database. */
  public void make(Wanted wanted, Channels channels) {
    Instant end = wanted.end();
    setStandIns(channels, end.toString());
    try {
      Instant begin = end.minus(Duration.ofDays(wanted.days() + 1));
      clock.set(begin);
      world.install(
          new DemoWorld.Outside(
              channels.shop(), channels.market(), channels.guild(), PULL_SECONDS));
      stock.prepare();
      levels.keepToday();
      networkHistory.keep();
      // those of all days at once, as they are known at the end
      clock.set(end);
      rates.fetch();
      clock.set(begin);
      makeUp(channels.shop(), wanted.orders(), wanted);
      makeUp(channels.market(), wanted.orders() / 4, wanted);
      makeUp(channels.guild(), Math.max(6, wanted.orders() / 30), wanted);
      Timeline timeline = new Timeline(clock, end);
      DemoLife.Course course = life.course(timeline, wanted.seed());
      plan(timeline, course, wanted);
      AtomicInteger happened = new AtomicInteger();
      timeline.play(() -> {
        if (happened.incrementAndGet() % REPORT_EVERY == 0) {
          LOG.info("{} days: {} things happened so far", wanted.days(), happened);
        }
      });
      finish(course);
    } finally {
      setStandIns(channels, "");
    }
  }

  private void plan(Timeline timeline, DemoLife.Course course, Wanted wanted) {
    Instant end = wanted.end();
    List<PastMessage> past = new ArrayList<>();
    for (String channel : List.of("WEB", "MARKET", "GUILD")) {
      past.addAll(intake.fetchAll(channel));
    }
    past.sort(Comparator.comparing(PastMessage::at));
    past.forEach(m -> timeline.happen(m.at().plusSeconds(40), () -> course.received(m)));
    for (ClubFile file : ClubFiles.before(end, wanted.days())) {
      timeline.happen(file.at(), () -> course.brought(file));
    }
    timeline.happen(end.minus(Duration.ofDays(7)), stock::runOut);
    timeline.happen(end.minus(Duration.ofDays(6)), backorders::expect);
    timeline.happen(end.minus(Duration.ofDays(4)), backorders::sellAhead);
    timeline.happen(end.minus(Duration.ofDays(2)), suppliers::raisePrices);
    for (int day = 0; day <= wanted.days(); day++) {
      Instant midnight = startOfDay(end.minus(Duration.ofDays(day)), settings.timeZone());
      timeline.happen(midnight, levels::keepToday);
    }
  }

  /** What is the case when the past has ended. */
  private void finish(DemoLife.Course course) {
    backorders.slip();
    course.work();
    refunds.payBack(MANAGER);
    stock.count();
    rulebook.think();
    rehearsals.begin(REHEARSED_DAYS, MANAGER);
    db.update(CHANNEL).set(CHANNEL.NEXT_PULL_AT, clock.instant()).execute();
    // the first push waits at the guard for somebody to let it through
    db.update(CHANNEL).set(CHANNEL.FEEDS, true).where(CHANNEL.CODE.eq("MARKET")).execute();
    feed.pushTo("MARKET");
  }

  private static Instant startOfDay(Instant moment, ZoneId zone) {
    return LocalDate.ofInstant(moment, zone).atStartOfDay(zone).toInstant();
  }

  private void makeUp(String channel, int orders, Wanted wanted) {
    http.post()
        .uri(channel + "/history")
        .body(Map.of("orders", orders, "days", wanted.days(), "seed", wanted.seed()))
        .retrieve()
        .toBodilessEntity();
  }

  /**
   * @param now empty: the real time
   */
  private void setStandIns(Channels channels, String now) {
    http.post()
        .uri(channels.shop() + "/clock")
        .body(Map.of("now", now))
        .retrieve()
        .toBodilessEntity();
  }
}
