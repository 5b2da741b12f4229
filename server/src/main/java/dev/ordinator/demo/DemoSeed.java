package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.APP_USER;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.PARCEL;

import dev.ordinator.OrdinatorApplication;
import dev.ordinator.access.Person;
import dev.ordinator.access.Role;
import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.demo.ClubFiles.ClubFile;
import dev.ordinator.desk.OrderDesk;
import dev.ordinator.desk.QueueService;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.dispatch.PackingBench;
import dev.ordinator.dispatch.Refusals;
import dev.ordinator.dispatch.Tracking;
import dev.ordinator.files.PastFiles;
import dev.ordinator.intake.HistoryIntake;
import dev.ordinator.intake.HistoryIntake.PastMessage;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.rates.RateFetch;
import dev.ordinator.rehearsal.Rehearsals;
import dev.ordinator.stock.LevelDays;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Random;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.ApplicationRunner;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Profile;
import org.springframework.web.client.RestClient;

/**
 * Fills an empty database with the demo world and its past: the real services, driven through sixty
 * days by a clock that is set, with the stand-ins running. What would happen after now has not
 * happened yet, so that orders stand at every stage.
 */
@Configuration
@Profile("seed")
public class DemoSeed {
  private static final String MANAGER = "Mara";
  private static final Logger LOG = LoggerFactory.getLogger(DemoSeed.class);
  private static final int DAYS = 60;
  private static final int REPORT_EVERY = 100;
  private static final int REHEARSED_DAYS = 30;

  /** A supplier has not answered for so long. */
  private static final Duration SUPPLIER_SILENT = Duration.ofDays(9);

  /** Of what was handed over between these ages, some was not scanned again. */
  private static final Duration LOST_SINCE = Duration.ofDays(4);

  private static final Duration LOST_UNTIL = Duration.ofDays(6);

  /** A clock that stands still until it is set. */
  static final class SetClock extends Clock {
    private volatile Instant now = Instant.now();

    void set(Instant to) {
      now = to;
    }

    @Override
    public Instant instant() {
      return now;
    }

    @Override
    public ZoneId getZone() {
      return ZoneId.of("UTC");
    }

    @Override
    public Clock withZone(ZoneId zone) {
      throw new UnsupportedOperationException("the application keeps UTC");
    }
  }

  /** Something that happens at a time. */
  private record Happening(Instant at, long number, Runnable what) {}

  private final SetClock clock = new SetClock();
  private final PriorityQueue<Happening> ahead =
      new PriorityQueue<>(Comparator.comparing(Happening::at).thenComparingLong(Happening::number));
  private final Random random = new Random(20261124);
  private final Instant end = Instant.now();
  private long happenings;

  public static void main(String[] args) {
    try (ConfigurableApplicationContext context =
        new SpringApplicationBuilder(OrdinatorApplication.class)
            .profiles("seed")
            .run(arguments(args))) {
      LOG.info("seeded");
    }
  }

  /** Later arguments win: a port of its own, and no work but what the history does. */
  private static String[] arguments(String[] given) {
    return Stream.concat(
            Arrays.stream(given), Stream.of("--server.port=0", "--ordinator.working=false"))
        .toArray(String[]::new);
  }

  @Bean
  Clock seedClock() {
    return clock;
  }

  @Bean
  ApplicationRunner seed(
      DSLContext db,
      DemoWorld world,
      HistoryIntake intake,
      PastFiles files,
      Orders allOrders,
      OrderDesk desk,
      Consignments consignments,
      PackingBench bench,
      Outbox outbox,
      Tracking tracking,
      Nodes nodes,
      DemoRefunds refunds,
      DemoReturns returns,
      DemoStock stock,
      DemoSuppliers suppliers,
      DemoBackorders backorders,
      QueueService queues,
      Refusals refusals,
      DemoRulebook rulebook,
      LevelDays levels,
      Rehearsals rehearsals,
      OrdinatorSettings settings,
      @Value("${ordinator.carrier-url}") String carrierUrl,
      @Value("${ordinator.carrier-key}") String carrierKey,
      RateFetch rates,
      @Value("${demo.shop-url}") String shopUrl,
      @Value("${demo.market-url}") String marketUrl,
      @Value("${demo.guild-url}") String guildUrl,
      @Value("${demo.orders:600}") int orders) {
    return arguments -> {
      if (world.isInstalled()) {
        return;
      }
      clock.set(end.minus(Duration.ofDays(DAYS + 1)));
      world.install(new DemoWorld.Outside(shopUrl, marketUrl, guildUrl, 15));
      stock.prepare();
      levels.keepToday();
      rates.fetch();
      RestClient http = RestClient.create();
      makeHistory(http, shopUrl, orders);
      makeHistory(http, marketUrl, orders / 4);
      makeHistory(http, guildUrl, orders / 30);
      Person joss = packer(db);
      History history =
          new History(
              db,
              allOrders,
              desk,
              queues,
              consignments,
              bench,
              outbox,
              tracking,
              refusals,
              returns,
              nodes,
              http,
              carrierUrl,
              carrierKey,
              joss);
      List<PastMessage> past = new ArrayList<>();
      for (String channel : List.of("WEB", "MARKET", "GUILD")) {
        past.addAll(intake.fetchAll(channel));
      }
      past.sort(Comparator.comparing(PastMessage::at));
      past.forEach(m -> happen(m.at().plusSeconds(40), () -> history.received(intake, m)));
      ClubFiles.before(end).forEach(f -> happen(f.at(), () -> history.brought(files, f)));
      happen(end.minus(Duration.ofDays(2)), suppliers::raisePrices);
      happen(end.minus(Duration.ofDays(6)), backorders::expect);
      happen(end.minus(Duration.ofDays(4)), backorders::sellAhead);
      for (int day = 0; day <= DAYS; day++) {
        happen(startOfDay(end.minus(Duration.ofDays(day)), settings.timeZone()), levels::keepToday);
      }
      play(past.size());
      backorders.slip();
      history.work();
      refunds.payBack(MANAGER);
      stock.count();
      rulebook.think();
      rehearsals.begin(REHEARSED_DAYS, MANAGER);
      db.update(CHANNEL).set(CHANNEL.NEXT_PULL_AT, end).execute();
      // the first push waits at the guard for somebody to let it through
      db.update(CHANNEL).set(CHANNEL.FEEDS, true).where(CHANNEL.CODE.eq("MARKET")).execute();
    };
  }

  private static Instant startOfDay(Instant moment, ZoneId zone) {
    return LocalDate.ofInstant(moment, zone).atStartOfDay(zone).toInstant();
  }

  private static void makeHistory(RestClient http, String channel, int orders) {
    http.post()
        .uri(channel + "/history")
        .body(Map.of("orders", orders, "days", DAYS))
        .retrieve()
        .toBodilessEntity();
  }

  private void play(int orders) {
    int played = 0;
    while (!ahead.isEmpty() && !ahead.peek().at().isAfter(end)) {
      Happening next = ahead.remove();
      clock.set(next.at());
      next.what().run();
      if (++played % (REPORT_EVERY * 8) == 0) {
        LOG.info("sixty days of {} orders: {} things happened so far", orders, played);
      }
    }
    clock.set(end);
  }

  private void happen(Instant at, Runnable what) {
    ahead.add(new Happening(at, happenings++, what));
  }

  private static Person packer(DSLContext db) {
    return db.select(APP_USER.ID, APP_USER.USERNAME, APP_USER.DISPLAY_NAME)
        .from(APP_USER)
        .where(APP_USER.USERNAME.eq("joss"))
        .fetchSingle(
            // packs at every node in the past
            r -> new Person(r.value1(), r.value2(), r.value3(), Role.PACKER, null));
  }

  /** What happens to an order after it was received. */
  private final class History {
    private final DSLContext db;
    private final Orders orders;
    private final OrderDesk desk;
    private final QueueService queues;
    private final Consignments consignments;
    private final PackingBench bench;
    private final Outbox outbox;
    private final Tracking tracking;
    private final Refusals refusals;
    private final DemoReturns returns;
    private final Nodes nodes;
    private final RestClient http;
    private final String carrierUrl;
    private final String carrierKey;
    private final Person packer;

    History(
        DSLContext db,
        Orders orders,
        OrderDesk desk,
        QueueService queues,
        Consignments consignments,
        PackingBench bench,
        Outbox outbox,
        Tracking tracking,
        Refusals refusals,
        DemoReturns returns,
        Nodes nodes,
        RestClient http,
        String carrierUrl,
        String carrierKey,
        Person packer) {
      this.db = db;
      this.orders = orders;
      this.desk = desk;
      this.queues = queues;
      this.consignments = consignments;
      this.bench = bench;
      this.outbox = outbox;
      this.tracking = tracking;
      this.refusals = refusals;
      this.returns = returns;
      this.nodes = nodes;
      this.http = http;
      this.carrierUrl = carrierUrl;
      this.carrierKey = carrierKey;
      this.packer = packer;
    }

    void received(HistoryIntake intake, PastMessage message) {
      var orderId = intake.take(message);
      work();
      orderId.ifPresent(this::planPackingOf);
    }

    /** A club's sheet is brought in, and its orders approved by hand. */
    void brought(PastFiles files, ClubFile file) {
      List<Long> ids = files.bring("CLUBS", file.name(), file.csv(), !file.waits(), MANAGER);
      work();
      ids.forEach(id -> orders.approve(id, MANAGER));
      work();
      ids.forEach(this::planPackingOf);
    }

    private void work() {
      while (desk.workOnOne() || queues.workOnOne()) {
        // until everything stands where it has to wait
      }
    }

    private void planPackingOf(long orderId) {
      consignments.ofOrder(orderId).stream()
          .filter(c -> c.state() == ConsignmentState.RELEASED)
          .forEach(this::planPacking);
    }

    /** Half are packed soon, half before the cut-off of their day; of late some are forgotten. */
    private void planPacking(Consignments.Head consignment) {
      var node = nodes.byId(consignment.nodeId());
      Instant cutOff =
          consignment.handOverOn().atTime(node.cutOff()).atZone(node.timeZone()).toInstant();
      boolean lately = cutOff.isAfter(end.minus(Duration.ofDays(4)));
      if (lately && random.nextInt(12) == 0) {
        return;
      }
      boolean silent = cutOff.isAfter(end.minus(SUPPLIER_SILENT));
      if (node.kind() == NodeKind.SUPPLIER && silent) {
        return;
      }
      if (node.kind() == NodeKind.STORE && random.nextInt(15) == 0) {
        happen(clock.instant().plusSeconds(5_400), () -> refuse(consignment));
        return;
      }
      Instant packed =
          random.nextBoolean()
              ? clock.instant().plusSeconds(1_800 + random.nextInt(7_200))
              : cutOff.minusSeconds(600 + random.nextInt(4 * 3600));
      Instant handed = cutOff.minusSeconds(random.nextInt(500));
      Instant soonest = clock.instant().plusSeconds(900);
      Instant packedAt = later(packed, soonest);
      happen(packedAt, () -> pack(consignment));
      happen(later(handed, packedAt.plusSeconds(300)), () -> handOver(consignment));
    }

    /** The store can't find the last of its lines: somebody else sends it. */
    private void refuse(Consignments.Head consignment) {
      var lines = consignments.lines(consignment.id());
      refusals.refuse(
          consignment.id(),
          new Refusals.Refusal(
              Refusals.Reason.NOT_THERE, Map.of(lines.getLast().id(), 1L), "looked twice"),
          consignment.nodeName());
      work();
      planPackingOf(consignment.orderId());
    }

    private static Instant later(Instant a, Instant b) {
      return a.isAfter(b) ? a : b;
    }

    private void pack(Consignments.Head consignment) {
      consignments
          .lines(consignment.id())
          .forEach(line -> {
            for (long unit = 0; unit < line.quantity(); unit++) {
              String serial = "%s-%d".formatted(line.sku(), 10_000 + line.id() * 10 + unit);
              bench.scan(
                  consignment.id(),
                  line.bySerial() ? serial : line.sku(),
                  line.bySerial() ? line.sku() : null,
                  packer);
            }
          });
      bench.close(consignment.id(), packer);
    }

    private void handOver(Consignments.Head consignment) {
      bench.handOver(consignment.id(), packer);
      while (outbox.deliverOne()) {
        // until channel and buyer are told
      }
      // a stretch of the way takes from four to eleven hours; scans come after 0, 1, 3 and 5 of
      // them
      long stretch = 4 * 3600 + random.nextInt(7 * 3600);
      Instant start = clock.instant();
      Duration ago = Duration.between(start, end);
      if (ago.compareTo(LOST_SINCE) > 0
          && ago.compareTo(LOST_UNTIL) < 0
          && random.nextInt(4) == 0) {
        // accepted, and never scanned again
        stretch = LOST_UNTIL.toSeconds() * 2;
      }
      long pace = stretch;
      db.select(PARCEL.TRACKING)
          .from(PARCEL)
          .where(PARCEL.CONSIGNMENT_ID.eq(consignment.id()))
          .forEach(p -> tellPace(p.value1(), start, pace));
      for (int part : List.of(0, 1, 3, 5)) {
        happen(start.plusSeconds(part * pace + 1), () -> tracking.askAbout(consignment.id()));
      }
      returns.after(consignment, start.plusSeconds(5 * pace), DemoSeed.this::happen);
    }

    private void tellPace(String tracking, Instant collectedAt, long stretch) {
      http.post()
          .uri(carrierUrl + "/api/labels/{tracking}/pace", tracking)
          .header("X-Api-Key", carrierKey)
          .body(Map.of("seconds", stretch, "collectedAt", collectedAt.toString()))
          .retrieve()
          .toBodilessEntity();
    }
  }
}
