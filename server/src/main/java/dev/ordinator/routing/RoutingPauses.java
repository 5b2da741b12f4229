package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ROUTING_PAUSE;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.orders.Step;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Times in which orders are not routed, those of one channel or of all: they come in and are
 * approved meanwhile, and are routed as soon as the pause ends. Or nothing new is routed to a node.
 * What is routed already goes on.
 */
@Service
public class RoutingPauses {
  private static final int LONGEST_REASON = 200;

  private final DSLContext db;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  RoutingPauses(DSLContext db, Events events, ApplicationEventPublisher publisher, Clock clock) {
    this.db = db;
    this.events = events;
    this.publisher = publisher;
    this.clock = clock;
  }

  /**
   * @param channel its code; null, and no node either: all of them
   * @param node code of one to which nothing is routed; null: it is not about one
   * @param waiting orders that would be routed now; none for a node, as others may send them
   */
  record Pause(
      long id,
      @Nullable String channel,
      @Nullable String channelName,
      @Nullable String node,
      @Nullable String nodeName,
      String reason,
      String by,
      Instant at,
      long waiting) {}

  /**
   * @param channel its code; null, and no node either: all of them
   * @param node code of one to which nothing is to be routed; null: it is not about one
   */
  record Wish(@Nullable String channel, @Nullable String node, String reason) {}

  /** Orders may be routed to a node again. */
  public record Resumed(long nodeId) {}

  /** Whether an order of a channel may not be routed now. */
  public boolean stop(long channelId) {
    return db.fetchExists(
        ROUTING_PAUSE,
        ROUTING_PAUSE
            .NODE_ID
            .isNull()
            .and(ROUTING_PAUSE.CHANNEL_ID.isNull().or(ROUTING_PAUSE.CHANNEL_ID.eq(channelId))));
  }

  /** That of all channels first. */
  List<Pause> all() {
    var waiting =
        DSL.field(
            DSL.selectCount()
                .from(SALES_ORDER)
                .where(SALES_ORDER.NEXT_STEP.in(Step.ROUTE.name(), Step.BATCH.name()))
                .and(ROUTING_PAUSE.NODE_ID.isNull())
                .and(
                    ROUTING_PAUSE
                        .CHANNEL_ID
                        .isNull()
                        .or(SALES_ORDER.CHANNEL_ID.eq(ROUTING_PAUSE.CHANNEL_ID))));
    return db.select(
            ROUTING_PAUSE.ID,
            CHANNEL.CODE,
            CHANNEL.NAME,
            NODE.CODE,
            NODE.NAME,
            ROUTING_PAUSE.REASON,
            ROUTING_PAUSE.MADE_BY,
            ROUTING_PAUSE.MADE_AT,
            waiting)
        .from(ROUTING_PAUSE)
        .leftJoin(CHANNEL)
        .on(CHANNEL.ID.eq(ROUTING_PAUSE.CHANNEL_ID))
        .leftJoin(NODE)
        .on(NODE.ID.eq(ROUTING_PAUSE.NODE_ID))
        .orderBy(ROUTING_PAUSE.WHAT)
        .fetch(r ->
            new Pause(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8(),
                r.value9()));
  }

  /**
   * @throws Problem if there is no such channel or node, no reason, or it is paused already
   */
  @Transactional
  void begin(Wish wish, String who) {
    if (wish.reason().isBlank() || wish.reason().length() > LONGEST_REASON) {
      throw Problem.invalid("reason", "say why, in at most 200 characters");
    }
    if (wish.channel() != null && wish.node() != null) {
      throw Problem.invalid("node", "either a channel or a node");
    }
    Long channel = wish.channel() == null ? null : channel(wish.channel());
    Long node = wish.node() == null ? null : node(wish.node());
    int begun =
        db.insertInto(ROUTING_PAUSE)
            .set(ROUTING_PAUSE.CHANNEL_ID, channel)
            .set(ROUTING_PAUSE.NODE_ID, node)
            .set(ROUTING_PAUSE.REASON, wish.reason().strip())
            .set(ROUTING_PAUSE.MADE_BY, who)
            .set(ROUTING_PAUSE.MADE_AT, clock.instant())
            .onDuplicateKeyIgnore()
            .execute();
    if (begun == 0) {
      throw Problem.conflict("it is paused already");
    }
    note(
        who,
        "Routing %s is paused".formatted(what(wish.channel(), wish.node())),
        wish.reason().strip());
  }

  /** Orders that were stopped are routed at once, unless another pause stops them. */
  @Transactional
  void end(long id, String who) {
    var pause =
        db.select(ROUTING_PAUSE.CHANNEL_ID, CHANNEL.CODE, ROUTING_PAUSE.NODE_ID, NODE.CODE)
            .from(ROUTING_PAUSE)
            .leftJoin(CHANNEL)
            .on(CHANNEL.ID.eq(ROUTING_PAUSE.CHANNEL_ID))
            .leftJoin(NODE)
            .on(NODE.ID.eq(ROUTING_PAUSE.NODE_ID))
            .where(ROUTING_PAUSE.ID.eq(id))
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("pause " + id));
    if (db.deleteFrom(ROUTING_PAUSE).where(ROUTING_PAUSE.ID.eq(id)).execute() == 0) {
      throw Problem.notFound("pause " + id);
    }
    note(who, "Routing %s goes on".formatted(what(pause.value2(), pause.value4())), "");
    if (pause.value3() != null) {
      publisher.publishEvent(new Resumed(pause.value3()));
      return;
    }
    Condition stopped = SALES_ORDER.NEXT_STEP.eq(Step.ROUTE.name());
    db.update(SALES_ORDER)
        .set(SALES_ORDER.NEXT_STEP_AT, clock.instant())
        .where(
            pause.value1() == null
                ? stopped
                : stopped.and(SALES_ORDER.CHANNEL_ID.eq(pause.value1())))
        .and(SALES_ORDER.NEXT_STEP_AT.gt(clock.instant()))
        .execute();
  }

  private void note(String who, String text, String why) {
    events.record(EventKind.CHANNEL_CHANGED, null, null, who, text, why);
  }

  private static String what(@Nullable String channel, @Nullable String node) {
    if (node != null) {
      return "to " + node;
    }
    return channel == null ? "of all channels" : "of channel " + channel;
  }

  private long node(String code) {
    return db.select(NODE.ID)
        .from(NODE)
        .where(NODE.CODE.eq(code))
        .fetchOptional(NODE.ID)
        .orElseThrow(() -> Problem.invalid("node", "no node is called " + code));
  }

  private long channel(String code) {
    return db.select(CHANNEL.ID)
        .from(CHANNEL)
        .where(CHANNEL.CODE.eq(code))
        .fetchOptional(CHANNEL.ID)
        .orElseThrow(() -> Problem.invalid("channel", "no channel is called " + code));
  }
}
