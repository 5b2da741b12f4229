package dev.ordinator.network;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.NODE_CLOSURE;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Days on which a node sends nothing, for a reason. Routing counts them like holidays: what is
 * routed there leaves afterwards, or from elsewhere if that is cheaper or in time.
 */
@Service
class Closures {
  private static final int LONGEST = 366;

  private final DSLContext db;
  private final Clock clock;

  Closures(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /**
   * @param first both days included, in the node's time zone
   */
  record Closure(
      long id,
      String node,
      String nodeName,
      LocalDate first,
      LocalDate last,
      String reason,
      String by,
      Instant at) {}

  record Wish(String node, LocalDate first, LocalDate last, String reason) {}

  /**
   * What of a node's waits to leave on one of these days; it stays until somebody sends it
   * otherwise.
   */
  record Affected(long orderId, String number, String buyer, LocalDate handOver, long units) {}

  /** Those that are not over yet, the earliest first. */
  List<Closure> all() {
    return db.select(
            NODE_CLOSURE.ID,
            NODE.CODE,
            NODE.NAME,
            NODE_CLOSURE.FIRST_DAY,
            NODE_CLOSURE.LAST_DAY,
            NODE_CLOSURE.REASON,
            NODE_CLOSURE.MADE_BY,
            NODE_CLOSURE.MADE_AT)
        .from(NODE_CLOSURE)
        .join(NODE)
        .on(NODE.ID.eq(NODE_CLOSURE.NODE_ID))
        .where(NODE_CLOSURE.LAST_DAY.ge(LocalDate.now(clock).minusDays(1)))
        .orderBy(NODE_CLOSURE.FIRST_DAY, NODE_CLOSURE.ID)
        .fetch(r ->
            new Closure(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8()));
  }

  /** What would still be there, the first to leave first. */
  List<Affected> affected(String node, LocalDate first, LocalDate last) {
    return db.select(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            CONSIGNMENT.HAND_OVER_ON,
            CONSIGNMENT.UNITS)
        .from(CONSIGNMENT)
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(NODE.CODE.eq(node))
        .and(CONSIGNMENT.STATE.in("PLANNED", "RELEASED"))
        .and(CONSIGNMENT.HAND_OVER_ON.between(first, last))
        .orderBy(CONSIGNMENT.HAND_OVER_ON, CONSIGNMENT.ID)
        .fetch(r -> new Affected(r.value1(), r.value2(), r.value3(), r.value4(), r.value5()));
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
    db.insertInto(NODE_CLOSURE)
        .set(NODE_CLOSURE.NODE_ID, node.value1())
        .set(NODE_CLOSURE.FIRST_DAY, wish.first())
        .set(NODE_CLOSURE.LAST_DAY, wish.last())
        .set(NODE_CLOSURE.REASON, wish.reason().strip())
        .set(NODE_CLOSURE.MADE_BY, who)
        .set(NODE_CLOSURE.MADE_AT, clock.instant())
        .execute();
  }

  /** It sends again, from now on. */
  @Transactional
  void open(long id) {
    if (db.deleteFrom(NODE_CLOSURE).where(NODE_CLOSURE.ID.eq(id)).execute() == 0) {
      throw Problem.notFound("closure " + id);
    }
  }
}
