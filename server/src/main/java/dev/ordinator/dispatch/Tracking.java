package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.PARCEL;
import static dev.ordinator.schema.Tables.PARCEL_SCAN;
import static java.util.Objects.requireNonNullElse;
import static org.jooq.impl.DSL.select;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.dispatch.ParcelWatch;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkHealth;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Executors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record1;
import org.jooq.Select;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.transaction.annotation.Transactional;

/** Asks carriers where parcels are, and moves consignments and orders on by what they say. */
@Configuration
public class Tracking {
  private static final Logger LOG = LoggerFactory.getLogger(Tracking.class);
  private static final int AT_ONCE = 200;
  private static final Duration CLOCKS_DIFFER = Duration.ofMinutes(1);

  /** Of a parcel of which a carrier has nothing to say so often, a person is told. */
  private static final int UNUSABLE_TRIES = 5;

  /** Between two questions to a carrier that fails, at most. */
  private static final Duration LONGEST_PAUSE = Duration.ofHours(1);

  /** What a carrier says of a parcel that needs a person. */
  private static final Set<String> TROUBLES = Set.of("RETURNED", "REFUSED", "DAMAGED", "LOST");

  private static final String WORK = "Tracking parcels";

  private final DSLContext db;
  private final Transactions transactions;
  private final Consignments consignments;
  private final Orders orders;
  private final Carrier carrier;
  private final Events events;
  private final Clock clock;
  private final OrdinatorSettings settings;
  private final Snags snags;
  private final WorkHealth health;

  Tracking(
      DSLContext db,
      Transactions transactions,
      Consignments consignments,
      Orders orders,
      Carrier carrier,
      Events events,
      Clock clock,
      OrdinatorSettings settings,
      Snags snags,
      WorkHealth health) {
    this.db = db;
    this.transactions = transactions;
    this.consignments = consignments;
    this.orders = orders;
    this.carrier = carrier;
    this.events = events;
    this.clock = clock;
    this.settings = settings;
    this.snags = snags;
    this.health = health;
  }

  /**
   * @param failures questions in a row that were not answered
   * @param watched since when: the carrier got it then, or a person has seen to it; now, if it has
   *     not left
   * @param lastNews when something was heard of it since; {@code watched}, if nothing was
   */
  private record Parcel(
      long id,
      long consignmentId,
      String tracking,
      int failures,
      Instant watched,
      Instant lastNews) {}

  @Bean
  RecurringTask<Void> trackParcels() {
    return Tasks.recurring("track-parcels", Schedules.fixedDelay(settings.workPause()))
        .execute((instance, context) -> askAll());
  }

  /** Each carrier by itself: one that is slow keeps no other's parcels waiting. */
  private void askAll() {
    Instant now = clock.instant();
    try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
      List<CompletableFuture<Void>> asked =
          db.select(CARRIER.ID)
              .from(CARRIER)
              .fetch(r ->
                  CompletableFuture.runAsync(
                      () ->
                          parcels(
                                  PARCEL
                                      .NEXT_TRACK_AT
                                      .le(now)
                                      .and(CONSIGNMENT.CARRIER_ID.eq(r.value1())))
                              .forEach(this::ask),
                      threads));
      asked.forEach(CompletableFuture::join);
    }
  }

  /** Asks about the parcels of one consignment now. */
  public void askAbout(long consignmentId) {
    parcels(PARCEL.CONSIGNMENT_ID.eq(consignmentId).and(PARCEL.NEXT_TRACK_AT.isNotNull()))
        .forEach(this::ask);
  }

  private List<Parcel> parcels(Condition which) {
    Instant now = clock.instant();
    return db.select(
            PARCEL.ID,
            PARCEL.CONSIGNMENT_ID,
            PARCEL.TRACKING,
            PARCEL.TRACK_FAILURES,
            CONSIGNMENT.HANDED_OVER_AT,
            PARCEL.LAST_SCAN_AT,
            PARCEL.WATCHED_FROM)
        .from(PARCEL)
        .join(CONSIGNMENT)
        .on(CONSIGNMENT.ID.eq(PARCEL.CONSIGNMENT_ID))
        .where(which)
        .orderBy(PARCEL.NEXT_TRACK_AT)
        .limit(AT_ONCE)
        .fetch(r -> {
          Instant left = requireNonNullElse(r.value5(), now);
          Instant watched = later(left, r.value7());
          return new Parcel(
              r.value1(), r.value2(), r.value3(), r.value4(), watched, later(watched, r.value6()));
        });
  }

  private static Instant later(Instant one, @Nullable Instant other) {
    return other != null && other.isAfter(one) ? other : one;
  }

  private void ask(Parcel parcel) {
    try {
      // a carrier's clock may be ahead of ours: what lies in the future is taken when its time has
      // come
      List<Carrier.Scan> scans =
          carrier.scans(parcel.tracking()).stream()
              .filter(s -> !s.at().isAfter(clock.instant().plus(CLOCKS_DIFFER)))
              .toList();
      if (isKnown(parcel, scans)) {
        nothingNew(parcel);
      } else {
        transactions.run(() -> take(parcel, scans));
      }
      health.succeeded(WORK);
    } catch (Carrier.Unavailable e) {
      LOG.info("{}", Texts.of(e));
      health.failed(WORK, e);
      askLater(parcel);
    } catch (RuntimeException e) { // of this parcel: the others are asked about all the same
      LOG.warn("tracking of {}", parcel.tracking(), e);
      health.failed(WORK, e);
      if (parcel.failures() + 1 < UNUSABLE_TRIES) {
        askLater(parcel);
      } else {
        transactions.run(() -> giveUp(parcel, Texts.of(e)));
      }
    }
  }

  private void askLater(Parcel parcel) {
    Duration grown =
        settings.trackingInterval().multipliedBy(1L << Math.min(parcel.failures(), 12));
    Duration pause = grown.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : grown;
    db.update(PARCEL)
        .set(PARCEL.NEXT_TRACK_AT, clock.instant().plus(pause))
        .set(PARCEL.TRACK_FAILURES, Math.min(parcel.failures() + 1, 1_000))
        .where(PARCEL.ID.eq(parcel.id()))
        .execute();
  }

  private boolean isKnown(Parcel parcel, List<Carrier.Scan> scans) {
    Set<String> known =
        db.select(PARCEL_SCAN.CODE, PARCEL_SCAN.AT)
            .from(PARCEL_SCAN)
            .where(PARCEL_SCAN.PARCEL_ID.eq(parcel.id()))
            .fetchSet(r -> r.value1() + r.value2().truncatedTo(ChronoUnit.MILLIS));
    return scans.stream()
        .allMatch(s -> known.contains(s.code() + s.at().truncatedTo(ChronoUnit.MILLIS)));
  }

  /** Only when to ask again is written, unless somebody must know. */
  private void nothingNew(Parcel parcel) {
    Instant now = clock.instant();
    if (ParcelWatch.isGivenUp(parcel.watched(), now)) {
      transactions.run(
          () -> giveUp(parcel, "it is not delivered 30 days after it left; nobody asks any more"));
      return;
    }
    db.update(PARCEL)
        .set(PARCEL.NEXT_TRACK_AT, now.plus(pause(parcel.lastNews())))
        .set(PARCEL.TRACK_FAILURES, 0)
        .where(PARCEL.ID.eq(parcel.id()))
        .execute();
    if (ParcelWatch.isSilent(parcel.lastNews(), now)) {
      transactions.run(() ->
          trouble(
              parcel,
              "no news of it since "
                  + Texts.day(parcel.lastNews().atZone(settings.timeZone()).toLocalDate())));
    }
  }

  private Duration pause(Instant lastNews) {
    return ParcelWatch.pause(settings.trackingInterval(), lastNews, clock.instant());
  }

  private void giveUp(Parcel parcel, String why) {
    db.update(PARCEL)
        .setNull(PARCEL.NEXT_TRACK_AT)
        .set(PARCEL.TRACK_FAILURES, Math.max(1, parcel.failures()))
        .where(PARCEL.ID.eq(parcel.id()))
        .execute();
    snag(SnagCause.NOT_TRACKED, parcel, why);
  }

  private void trouble(Parcel parcel, String what) {
    snag(SnagCause.PARCEL_TROUBLE, parcel, what);
  }

  /** One snag of a cause for each order, of whichever of its parcels is found first. */
  private void snag(SnagCause cause, Parcel parcel, String why) {
    long orderId = consignments.byId(parcel.consignmentId()).orderId();
    OrderHead order = orders.lock(orderId);
    snags.open(
        Snags.About.of(
                cause, orderId, "%s, parcel %s".formatted(order.number(), parcel.tracking()), why)
            .order(orderId),
        orderId,
        "desk");
  }

  /** A person has seen to it: of further silence they are told when it has lasted as long again. */
  @Transactional
  public void settleTrouble(long orderId, String actor) {
    orders.lock(orderId);
    db.update(PARCEL)
        .set(PARCEL.WATCHED_FROM, clock.instant())
        .where(PARCEL.CONSIGNMENT_ID.in(consignmentsOf(orderId)))
        .execute();
    snags.close(SnagCause.PARCEL_TROUBLE, orderId, actor);
  }

  private static Select<Record1<Long>> consignmentsOf(long orderId) {
    return select(CONSIGNMENT.ID).from(CONSIGNMENT).where(CONSIGNMENT.ORDER_ID.eq(orderId));
  }

  /** A person has the parcels of an order asked about again that were given up. */
  @Transactional
  public void tryAgain(long orderId, String actor) {
    orders.lock(orderId);
    db.update(PARCEL)
        .set(PARCEL.NEXT_TRACK_AT, clock.instant())
        .set(PARCEL.TRACK_FAILURES, 0)
        .set(PARCEL.WATCHED_FROM, clock.instant())
        .where(PARCEL.NEXT_TRACK_AT.isNull())
        .and(PARCEL.TRACK_FAILURES.gt(0))
        .and(PARCEL.CONSIGNMENT_ID.in(consignmentsOf(orderId)))
        .execute();
    snags.close(SnagCause.NOT_TRACKED, orderId, actor);
  }

  private void take(Parcel parcel, List<Carrier.Scan> scans) {
    long orderId = consignments.byId(parcel.consignmentId()).orderId();
    orders.lock(orderId);
    Instant lastNews = parcel.lastNews();
    for (Carrier.Scan scan : scans) {
      int isNew =
          db.insertInto(PARCEL_SCAN)
              .set(PARCEL_SCAN.PARCEL_ID, parcel.id())
              .set(PARCEL_SCAN.CODE, scan.code())
              .set(PARCEL_SCAN.PLACE, Texts.cut(scan.place(), 120))
              .set(PARCEL_SCAN.AT, scan.at())
              .onDuplicateKeyIgnore()
              .execute();
      lastNews = scan.at().isAfter(lastNews) ? scan.at() : lastNews;
      if (isNew == 1) {
        move(consignments.lock(parcel.consignmentId()), scan);
      }
    }
    boolean delivered = scans.stream().anyMatch(s -> s.code().equals("DELIVERED"));
    Carrier.Scan last = scans.getLast();
    db.update(PARCEL)
        .set(PARCEL.NEXT_TRACK_AT, delivered ? null : clock.instant().plus(pause(lastNews)))
        .set(PARCEL.TRACK_FAILURES, 0)
        .set(PARCEL.LAST_SCAN_AT, last.at())
        .where(PARCEL.ID.eq(parcel.id()))
        .execute();
    if (TROUBLES.contains(last.code())) {
      trouble(parcel, sentence(last.code()).toLowerCase(Locale.ROOT));
    } else {
      snags.close(SnagCause.PARCEL_TROUBLE, orderId, "desk");
    }
    consignments.refresh(orderId);
  }

  private void move(Head consignment, Carrier.Scan scan) {
    boolean delivered = scan.code().equals("DELIVERED");
    ConsignmentState next = delivered ? ConsignmentState.DELIVERED : ConsignmentState.IN_TRANSIT;
    if (consignment.state().mayBecome(next)) {
      consignments.advance(consignment, next);
    }
    events.record(
        delivered ? EventKind.DELIVERED : EventKind.SCANNED,
        consignment.orderId(),
        consignment.id(),
        consignment.carrierName(),
        sentence(scan.code()),
        scan.place());
  }

  private static String sentence(String code) {
    return switch (code) {
      case "ACCEPTED" -> "Parcel accepted";
      case "MOVING" -> "Parcel under way";
      case "OUT" -> "Parcel out for delivery";
      case "DELIVERED" -> "Parcel delivered";
      case "RETURNED" -> "Parcel on its way back to the sender";
      case "REFUSED" -> "Parcel not taken by the receiver";
      case "DAMAGED" -> "Parcel damaged";
      case "LOST" -> "Parcel lost";
      default -> "Parcel: " + code;
    };
  }
}
