package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.APP_USER;
import static dev.ordinator.schema.Tables.PARCEL;

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
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;
import org.springframework.web.client.RestClient;

/** What happens to orders after they were received, by the hands of people and carriers. */
@Component
@Profile("seed")
class DemoLife {
  private static final String MANAGER = "Mara";

  /** Of late some consignments are forgotten. */
  private static final Duration LATELY = Duration.ofDays(4);

  /** A supplier has not answered for so long. */
  private static final Duration SUPPLIER_SILENT = Duration.ofDays(9);

  /**
   * A store refused something within so long: long enough that one of its working days is in it.
   */
  private static final Duration REFUSED_SINCE = Duration.ofDays(5);

  /** Of what was handed over between these ages, some was not scanned again. */
  private static final Duration LOST_SINCE = Duration.ofDays(4);

  private static final Duration LOST_UNTIL = Duration.ofDays(9);

  private final DSLContext db;
  private final Orders orders;
  private final OrderDesk desk;
  private final QueueService queues;
  private final HistoryIntake intake;
  private final PastFiles files;
  private final Consignments consignments;
  private final PackingBench bench;
  private final Outbox outbox;
  private final Tracking tracking;
  private final Refusals refusals;
  private final Nodes nodes;
  private final DemoReturns returns;
  private final OrdinatorSettings settings;
  private final RestClient http = RestClient.create();

  DemoLife(
      DSLContext db,
      Orders orders,
      OrderDesk desk,
      QueueService queues,
      HistoryIntake intake,
      PastFiles files,
      Consignments consignments,
      PackingBench bench,
      Outbox outbox,
      Tracking tracking,
      Refusals refusals,
      Nodes nodes,
      DemoReturns returns,
      OrdinatorSettings settings) {
    this.db = db;
    this.orders = orders;
    this.desk = desk;
    this.queues = queues;
    this.intake = intake;
    this.files = files;
    this.consignments = consignments;
    this.bench = bench;
    this.outbox = outbox;
    this.tracking = tracking;
    this.refusals = refusals;
    this.nodes = nodes;
    this.returns = returns;
    this.settings = settings;
  }

  /** One past: the same timeline and seed give the same. */
  Course course(Timeline timeline, long seed) {
    return new Course(timeline, seed);
  }

  final class Course {
    private final Timeline timeline;
    private final Random random;
    private final DemoReturns.Course backs;
    private final Person packer = packer();
    private final Set<Long> planned = new HashSet<>();
    private boolean refused;
    private boolean lost;

    private Course(Timeline timeline, long seed) {
      this.timeline = timeline;
      this.random = new Random(seed);
      this.backs = returns.course(timeline, seed);
    }

    void received(PastMessage message) {
      var orderId = intake.take(message);
      work();
      orderId.ifPresent(this::planPackingOf);
    }

    /** A club's sheet is brought in, and its orders approved by hand. */
    void brought(ClubFile file) {
      List<Long> ids = files.bring("CLUBS", file.name(), file.csv(), !file.waits(), MANAGER);
      work();
      ids.forEach(id -> orders.approve(id, MANAGER));
      work();
      ids.forEach(this::planPackingOf);
    }

    void work() {
      while (desk.workOnOne() || queues.workOnOne()) {
        // until everything stands where it has to wait
      }
    }

    private void planPackingOf(long orderId) {
      consignments.ofOrder(orderId).stream()
          .filter(c -> c.state() == ConsignmentState.RELEASED)
          .filter(c -> planned.add(c.id()))
          .forEach(this::planPacking);
    }

    /** Half are packed soon, half before the cut-off of their day; of late some are forgotten. */
    private void planPacking(Consignments.Head consignment) {
      var node = nodes.byId(consignment.nodeId());
      Instant now = timeline.now();
      Instant cutOff =
          consignment.handOverOn().atTime(node.cutOff()).atZone(node.timeZone()).toInstant();
      if (node.kind() == NodeKind.STORE && refuses()) {
        timeline.happen(now.plusSeconds(5_400), () -> refuse(consignment));
        return;
      }
      boolean forgotten = isWithin(cutOff, LATELY) && random.nextInt(12) == 0;
      boolean silent = node.kind() == NodeKind.SUPPLIER && isWithin(cutOff, SUPPLIER_SILENT);
      if (forgotten || silent) {
        return;
      }
      Instant packed =
          random.nextBoolean()
              ? now.plusSeconds(1_800 + random.nextInt(7_200))
              : cutOff.minusSeconds(600 + random.nextInt(4 * 3600));
      Instant handed = cutOff.minusSeconds(random.nextInt(500));
      Instant packedAt = later(packed, now.plusSeconds(900));
      timeline.happen(packedAt, () -> pack(consignment));
      timeline.happen(later(handed, packedAt.plusSeconds(300)), () -> handOver(consignment));
    }

    /** Some do, and of late one at least. */
    private boolean refuses() {
      Instant refusal = timeline.now().plusSeconds(5_400);
      boolean must =
          !refused && isWithin(refusal, REFUSED_SINCE) && !refusal.isAfter(timeline.end());
      if (!must && random.nextInt(15) != 0) {
        return false;
      }
      refused |= must;
      return true;
    }

    private boolean isWithin(Instant moment, Duration ofTheEnd) {
      return moment.isAfter(timeline.end().minus(ofTheEnd));
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
      // them, but of a parcel that got lost
      Instant start = timeline.now();
      long stretch =
          getsLost(start) ? LOST_UNTIL.toSeconds() * 2 : 4 * 3600 + random.nextInt(7 * 3600);
      db.select(PARCEL.TRACKING)
          .from(PARCEL)
          .where(PARCEL.CONSIGNMENT_ID.eq(consignment.id()))
          .forEach(p -> tellPace(p.value1(), start, stretch));
      for (int part : List.of(0, 1, 3, 5)) {
        timeline.happen(
            start.plusSeconds(part * stretch + 1), () -> tracking.askAbout(consignment.id()));
      }
      backs.after(consignment, start.plusSeconds(5 * stretch));
    }

    /** Accepted, and never scanned again: some are, and one at least. */
    private boolean getsLost(Instant handedOver) {
      boolean may = isWithin(handedOver, LOST_UNTIL) && !isWithin(handedOver, LOST_SINCE);
      boolean gets = may && (!lost || random.nextInt(8) == 0);
      lost |= gets;
      return gets;
    }

    private void tellPace(String tracking, Instant collectedAt, long stretch) {
      http.post()
          .uri(settings.carrierUrl() + "/api/labels/{tracking}/pace", tracking)
          .header("X-Api-Key", settings.carrierKey())
          .body(Map.of("seconds", stretch, "collectedAt", collectedAt.toString()))
          .retrieve()
          .toBodilessEntity();
    }
  }

  private static Instant later(Instant a, Instant b) {
    return a.isAfter(b) ? a : b;
  }

  /** Packs at every node in the past. */
  private Person packer() {
    return db.select(APP_USER.ID, APP_USER.USERNAME, APP_USER.DISPLAY_NAME)
        .from(APP_USER)
        .where(APP_USER.USERNAME.eq("joss"))
        .fetchSingle(r -> new Person(r.value1(), r.value2(), r.value3(), Role.PACKER, null));
  }
}
