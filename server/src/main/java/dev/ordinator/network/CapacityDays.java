package dev.ordinator.network;

import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.NODE_CAPACITY;

import dev.ordinator.platform.Problem;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How many consignments a node can hand over on a day: as usual, or as is said of that day. */
@Service
public class CapacityDays {
  static final int MOST = 100_000;

  private final DSLContext db;
  private final ApplicationEventPublisher publisher;

  CapacityDays(DSLContext db, ApplicationEventPublisher publisher) {
    this.db = db;
    this.publisher = publisher;
  }

  /**
   * A day that is not as usual.
   *
   * @param consignments null: no limit
   */
  public record OtherDay(LocalDate day, @Nullable Integer consignments) {}

  /** What a node can hand over is another number now, on a day or on all. */
  public record Changed(long nodeId) {}

  /** A node's days that are not as usual, from a day on. */
  public List<OtherDay> coming(long nodeId, LocalDate from) {
    return db.selectFrom(NODE_CAPACITY)
        .where(NODE_CAPACITY.NODE_ID.eq(nodeId))
        .and(NODE_CAPACITY.DAY.ge(from))
        .orderBy(NODE_CAPACITY.DAY)
        .fetch(r -> new OtherDay(r.getDay(), r.getConsignments()));
  }

  /**
   * @throws Problem if it is not from 0 to 100,000
   */
  @Transactional
  public void set(long nodeId, OtherDay other) {
    Integer units = other.consignments();
    if (units != null && (units < 0 || units > MOST)) {
      throw Problem.invalid("consignments", "0 to %,d".formatted(MOST));
    }
    db.insertInto(NODE_CAPACITY)
        .set(NODE_CAPACITY.NODE_ID, nodeId)
        .set(NODE_CAPACITY.DAY, other.day())
        .set(NODE_CAPACITY.CONSIGNMENTS, units)
        .onDuplicateKeyUpdate()
        .set(NODE_CAPACITY.CONSIGNMENTS, units)
        .execute();
    publisher.publishEvent(new Changed(nodeId));
  }

  /** That day is as usual again. */
  @Transactional
  public void forget(long nodeId, LocalDate day) {
    db.deleteFrom(NODE_CAPACITY)
        .where(NODE_CAPACITY.NODE_ID.eq(nodeId))
        .and(NODE_CAPACITY.DAY.eq(day))
        .execute();
    publisher.publishEvent(new Changed(nodeId));
  }

  /** What a node can hand over on a day; null: no limit. */
  @Nullable Integer on(long nodeId, LocalDate day, @Nullable Integer usual) {
    return db.selectFrom(NODE_CAPACITY)
        .where(NODE_CAPACITY.NODE_ID.eq(nodeId))
        .and(NODE_CAPACITY.DAY.eq(day))
        .fetchOptional()
        .map(r -> new OtherDay(day, r.getConsignments()))
        .orElse(new OtherDay(day, usual))
        .consignments();
  }

  /** What nodes hand over on a usual day, by their codes; those without limit are left out. */
  Map<String, Integer> usual() {
    return db.select(NODE.CODE, NODE.CAPACITY_PER_DAY)
        .from(NODE)
        .where(NODE.CAPACITY_PER_DAY.isNotNull())
        .fetchMap(NODE.CODE, NODE.CAPACITY_PER_DAY);
  }

  /** What of such maps holds for a node on a day; null: no limit. */
  static @Nullable Integer most(
      String node,
      LocalDate day,
      Map<String, Integer> usual,
      Map<String, Map<LocalDate, OtherDay>> otherDays) {
    OtherDay other = otherDays.getOrDefault(node, Map.of()).get(day);
    return other == null ? usual.get(node) : other.consignments();
  }

  /** All days that are not as usual, by codes of nodes. */
  Map<String, Map<LocalDate, OtherDay>> otherDays() {
    Map<String, Map<LocalDate, OtherDay>> all = new HashMap<>();
    db.select(NODE.CODE, NODE_CAPACITY.DAY, NODE_CAPACITY.CONSIGNMENTS)
        .from(NODE_CAPACITY)
        .join(NODE)
        .on(NODE.ID.eq(NODE_CAPACITY.NODE_ID))
        .forEach(r ->
            all.computeIfAbsent(r.value1(), code -> new HashMap<>())
                .put(r.value2(), new OtherDay(r.value2(), r.value3())));
    return all;
  }

  /** What nodes can hand over on one day each, by their codes; those without limit are left out. */
  Map<String, Integer> on(Map<String, LocalDate> days) {
    Map<String, Integer> most = new HashMap<>(usual());
    db.select(NODE.CODE, NODE_CAPACITY.DAY, NODE_CAPACITY.CONSIGNMENTS)
        .from(NODE_CAPACITY)
        .join(NODE)
        .on(NODE.ID.eq(NODE_CAPACITY.NODE_ID))
        .where(NODE_CAPACITY.DAY.in(days.values()))
        .forEach(r -> {
          if (r.value2().equals(days.get(r.value1()))) {
            if (r.value3() == null) {
              most.remove(r.value1());
            } else {
              most.put(r.value1(), r.value3());
            }
          }
        });
    return most;
  }
}
