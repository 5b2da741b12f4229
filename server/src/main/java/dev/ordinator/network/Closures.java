package dev.ordinator.network;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.LANE;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.NODE_CLOSURE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.ZONE;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.Zones;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Days on which a node sends nothing, or not by one of its lanes, for a reason. Routing counts a
 * node's like holidays: what is routed there leaves afterwards, or from elsewhere if that is
 * cheaper or in time. A lane that is closed on the day on which a release now would leave is not
 * there.
 */
@Service
public class Closures {
  /** Whether a consignment still waits to leave on a day on which all of its node is closed. */
  public static final Field<Boolean> CLOSED_THEN =
      field(
              exists(
                  selectOne()
                      .from(NODE_CLOSURE)
                      .where(NODE_CLOSURE.NODE_ID.eq(CONSIGNMENT.NODE_ID))
                      .and(NODE_CLOSURE.LANE_ID.isNull())
                      .and(
                          CONSIGNMENT.HAND_OVER_ON.between(
                              NODE_CLOSURE.FIRST_DAY, NODE_CLOSURE.LAST_DAY))
                      .and(CONSIGNMENT.STATE.in("PLANNED", "RELEASED"))))
          .as("closed_then");

  private static final int LONGEST = 366;

  private final DSLContext db;
  private final NetworkStore store;
  private final Clock clock;

  Closures(DSLContext db, NetworkStore store, Clock clock) {
    this.db = db;
    this.store = store;
    this.clock = clock;
  }

  /**
   * @param lane only that lane of the node; null: all of it
   * @param laneName its carrier, service and zone; empty: all of it
   * @param first both days included, in the node's time zone
   */
  record Closure(
      long id,
      String node,
      String nodeName,
      @Nullable Long lane,
      String laneName,
      LocalDate first,
      LocalDate last,
      String reason,
      String by,
      Instant at) {}

  /**
   * @param lane only that lane of the node; null: all of it
   */
  record Wish(String node, @Nullable Long lane, LocalDate first, LocalDate last, String reason) {}

  /** A lane of a node. */
  record LaneName(long id, String carrier, String service, String zone) {
    String words() {
      return "%s %s to %s".formatted(carrier, service, zone);
    }
  }

  List<LaneName> lanes(String node) {
    return lanes(NODE.CODE.eq(node));
  }

  private List<LaneName> lanes(Condition which) {
    return db.select(LANE.ID, CARRIER.CODE, LANE.SERVICE, ZONE.CODE)
        .from(LANE)
        .join(NODE)
        .on(NODE.ID.eq(LANE.NODE_ID))
        .join(CARRIER)
        .on(CARRIER.ID.eq(LANE.CARRIER_ID))
        .join(ZONE)
        .on(ZONE.ID.eq(LANE.ZONE_ID))
        .where(which)
        .orderBy(LANE.POSITION)
        .fetch(r -> new LaneName(r.value1(), r.value2(), r.value3(), r.value4()));
  }

  /**
   * What of a node's waits to leave on one of these days; it stays until somebody sends it
   * otherwise.
   */
  public record Affected(
      long orderId,
      long consignmentId,
      String number,
      String buyer,
      LocalDate handOver,
      long units) {}

  /** Those that are not over yet, the earliest first. */
  List<Closure> all() {
    return db.select(
            NODE_CLOSURE.ID,
            NODE.CODE,
            NODE.NAME,
            NODE_CLOSURE.LANE_ID,
            CARRIER.CODE,
            LANE.SERVICE,
            ZONE.CODE,
            NODE_CLOSURE.FIRST_DAY,
            NODE_CLOSURE.LAST_DAY,
            NODE_CLOSURE.REASON,
            NODE_CLOSURE.MADE_BY,
            NODE_CLOSURE.MADE_AT)
        .from(NODE_CLOSURE)
        .join(NODE)
        .on(NODE.ID.eq(NODE_CLOSURE.NODE_ID))
        .leftJoin(LANE)
        .on(LANE.ID.eq(NODE_CLOSURE.LANE_ID))
        .leftJoin(CARRIER)
        .on(CARRIER.ID.eq(LANE.CARRIER_ID))
        .leftJoin(ZONE)
        .on(ZONE.ID.eq(LANE.ZONE_ID))
        .where(NODE_CLOSURE.LAST_DAY.ge(LocalDate.now(clock).minusDays(1)))
        .orderBy(NODE_CLOSURE.FIRST_DAY, NODE_CLOSURE.ID)
        .fetch(r ->
            new Closure(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value4() == null
                    ? ""
                    : new LaneName(r.value4(), r.value5(), r.value6(), r.value7()).words(),
                r.value8(),
                r.value9(),
                r.value10(),
                r.value11(),
                r.value12()));
  }

  /** What is still planned to leave on days of a closure, the first to leave first. */
  public List<Affected> affected(long id) {
    Closure closure =
        all().stream()
            .filter(c -> c.id() == id)
            .findFirst()
            .orElseThrow(() -> Problem.notFound("closure " + id));
    return affected(closure.node(), closure.lane(), closure.first(), closure.last());
  }

  /** What would still be there, the first to leave first. */
  List<Affected> affected(String node, @Nullable Long lane, LocalDate first, LocalDate last) {
    Optional<LaneName> only = lane == null ? Optional.empty() : Optional.of(lane(node, lane));
    Zones zones = new Zones(only.isEmpty() ? List.of() : store.zones());
    return db
        .select(
            SALES_ORDER.ID,
            CONSIGNMENT.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            CONSIGNMENT.HAND_OVER_ON,
            CONSIGNMENT.UNITS,
            SALES_ORDER.SHIP_COUNTRY,
            SALES_ORDER.SHIP_POSTCODE)
        .from(CONSIGNMENT)
        .join(CARRIER)
        .on(CARRIER.ID.eq(CONSIGNMENT.CARRIER_ID))
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(NODE.CODE.eq(node))
        .and(CONSIGNMENT.STATE.in("PLANNED", "RELEASED"))
        .and(CONSIGNMENT.HAND_OVER_ON.between(first, last))
        .and(
            only.map(l -> CARRIER.CODE.eq(l.carrier()).and(CONSIGNMENT.SERVICE.eq(l.service())))
                .orElse(noCondition()))
        .orderBy(CONSIGNMENT.HAND_OVER_ON, CONSIGNMENT.ID)
        .stream()
        .filter(r ->
            only.isEmpty()
                || zones
                    .of(new Destination(r.value7(), r.value8()))
                    .filter(zone -> zone.code().equals(only.get().zone()))
                    .isPresent())
        .map(r ->
            new Affected(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()))
        .toList();
  }

  /**
   * @throws Problem if the days or the reason are not sound
   */
  @Transactional
  void close(Wish wish, String who) {
    var node =
        db.select(NODE.ID, NODE.TIME_ZONE)
            .from(NODE)
            .where(NODE.CODE.eq(wish.node()))
            .fetchOptional()
            .orElseThrow(() -> Problem.invalid("node", "no node is called " + wish.node()));
    LocalDate today = clock.instant().atZone(ZoneId.of(node.value2())).toLocalDate();
    if (wish.last().isBefore(wish.first())) {
      throw Problem.invalid("last", "the last day is before the first");
    }
    if (wish.last().isBefore(today)) {
      throw Problem.invalid("last", "that is over already");
    }
    if (wish.first().plusDays(LONGEST).isBefore(wish.last())) {
      throw Problem.invalid("last", "at most a year");
    }
    if (wish.reason().isBlank() || wish.reason().length() > 200) {
      throw Problem.invalid("reason", "say why, in at most 200 characters");
    }
    Long lane = wish.lane();
    db.insertInto(NODE_CLOSURE)
        .set(NODE_CLOSURE.NODE_ID, node.value1())
        .set(NODE_CLOSURE.LANE_ID, lane == null ? null : (Long) lane(wish.node(), lane).id())
        .set(NODE_CLOSURE.FIRST_DAY, wish.first())
        .set(NODE_CLOSURE.LAST_DAY, wish.last())
        .set(NODE_CLOSURE.REASON, wish.reason().strip())
        .set(NODE_CLOSURE.MADE_BY, who)
        .set(NODE_CLOSURE.MADE_AT, clock.instant())
        .execute();
  }

  private LaneName lane(String node, long id) {
    return lanes(NODE.CODE.eq(node).and(LANE.ID.eq(id))).stream()
        .findFirst()
        .orElseThrow(() -> Problem.invalid("lane", "the node has no such lane"));
  }

  /** It sends again, from now on. */
  @Transactional
  void open(long id) {
    if (db.deleteFrom(NODE_CLOSURE).where(NODE_CLOSURE.ID.eq(id)).execute() == 0) {
      throw Problem.notFound("closure " + id);
    }
  }
}
