package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.PARCEL;
import static dev.ordinator.schema.Tables.PARCEL_SCAN;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Asks carriers where parcels are, and moves consignments and orders on by what they say. */
@Configuration
public class Tracking {
  private static final Logger LOG = LoggerFactory.getLogger(Tracking.class);
  private static final int AT_ONCE = 200;
  private static final Duration CLOCKS_DIFFER = Duration.ofMinutes(1);

  private final DSLContext db;
  private final Transactions transactions;
  private final Consignments consignments;
  private final Orders orders;
  private final Carrier carrier;
  private final Events events;
  private final Clock clock;
  private final OrdinatorSettings settings;

  Tracking(
      DSLContext db,
      Transactions transactions,
      Consignments consignments,
      Orders orders,
      Carrier carrier,
      Events events,
      Clock clock,
      OrdinatorSettings settings) {
    this.db = db;
    this.transactions = transactions;
    this.consignments = consignments;
    this.orders = orders;
    this.carrier = carrier;
    this.events = events;
    this.clock = clock;
    this.settings = settings;
  }

  private record Parcel(long id, long consignmentId, String tracking) {}

  @Bean
  RecurringTask<Void> trackParcels() {
    return Tasks.recurring("track-parcels", Schedules.fixedDelay(settings.workPause()))
        .execute((instance, context) ->
            parcels(PARCEL.NEXT_TRACK_AT.le(clock.instant())).forEach(this::ask));
  }

  /** Asks about the parcels of one consignment now. */
  public void askAbout(long consignmentId) {
    parcels(PARCEL.CONSIGNMENT_ID.eq(consignmentId).and(PARCEL.NEXT_TRACK_AT.isNotNull()))
        .forEach(this::ask);
  }

  private List<Parcel> parcels(Condition which) {
    return db.select(PARCEL.ID, PARCEL.CONSIGNMENT_ID, PARCEL.TRACKING)
        .from(PARCEL)
        .where(which)
        .orderBy(PARCEL.NEXT_TRACK_AT)
        .limit(AT_ONCE)
        .fetch(r -> new Parcel(r.value1(), r.value2(), r.value3()));
  }

  private void ask(Parcel parcel) {
    Instant next = clock.instant().plus(settings.trackingInterval());
    try {
      // a carrier's clock may be ahead of ours: what lies in the future is taken when its time has
      // come
      List<Carrier.Scan> scans =
          carrier.scans(parcel.tracking()).stream()
              .filter(s -> !s.at().isAfter(clock.instant().plus(CLOCKS_DIFFER)))
              .toList();
      transactions.run(() -> take(parcel, scans, next));
    } catch (Carrier.Unavailable e) {
      LOG.info("{}", Texts.of(e));
      db.update(PARCEL).set(PARCEL.NEXT_TRACK_AT, next).where(PARCEL.ID.eq(parcel.id())).execute();
    }
  }

  private void take(Parcel parcel, List<Carrier.Scan> scans, Instant next) {
    long orderId = consignments.byId(parcel.consignmentId()).orderId();
    orders.lock(orderId);
    boolean delivered = false;
    for (Carrier.Scan scan : scans) {
      int isNew =
          db.insertInto(PARCEL_SCAN)
              .set(PARCEL_SCAN.PARCEL_ID, parcel.id())
              .set(PARCEL_SCAN.CODE, scan.code())
              .set(PARCEL_SCAN.PLACE, Texts.cut(scan.place(), 120))
              .set(PARCEL_SCAN.AT, scan.at())
              .onDuplicateKeyIgnore()
              .execute();
      delivered |= scan.code().equals("DELIVERED");
      if (isNew == 1) {
        move(consignments.lock(parcel.consignmentId()), scan);
      }
    }
    db.update(PARCEL)
        .set(PARCEL.NEXT_TRACK_AT, delivered ? null : next)
        .set(PARCEL.LAST_SCAN_AT, scans.isEmpty() ? null : scans.getLast().at())
        .where(PARCEL.ID.eq(parcel.id()))
        .execute();
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
      default -> "Parcel: " + code;
    };
  }
}
