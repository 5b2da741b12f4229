package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.AMENDMENT;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.core.orders.OrderContent.Change;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record3;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * What channels change about orders that were taken in. Until an order is released the change is
 * followed; afterwards a person sees the difference, and says whose version holds.
 */
@Service
public class Amendments {
  private final DSLContext db;
  private final Channels channels;
  private final Connectors connectors;
  private final Recognition recognition;
  private final Orders orders;
  private final Consignments consignments;
  private final Snags snags;
  private final Events events;
  private final JsonMapper json;
  private final Clock clock;

  Amendments(
      DSLContext db,
      Channels channels,
      Connectors connectors,
      Recognition recognition,
      Orders orders,
      Consignments consignments,
      Snags snags,
      Events events,
      JsonMapper json,
      Clock clock) {
    this.db = db;
    this.channels = channels;
    this.connectors = connectors;
    this.recognition = recognition;
    this.orders = orders;
    this.consignments = consignments;
    this.snags = snags;
    this.events = events;
    this.json = json;
    this.clock = clock;
  }

  /** A change that waits for a person. */
  public record Waiting(long id, Instant cameAt, List<Change> changes, boolean mayBeTaken) {}

  /** Follows what the channel says now, or asks a person. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void follow(Channel channel, OrderHead ours, IncomingOrder order, String message) {
    OrderContent before = orders.content(ours.id());
    List<Change> changes = before == null ? List.of() : before.changesTo(order.content());
    settle(ours.id(), "REFUSED", channel.name());
    if (changes.isEmpty()) {
      snags.close(SnagCause.CHANGED_BY_CHANNEL, ours.id(), channel.name());
      return;
    }
    if (ours.stage().compareTo(Stage.RELEASED) < 0) {
      apply(channel, ours, order, changes, channel.name());
      return;
    }
    db.insertInto(AMENDMENT)
        .set(AMENDMENT.ORDER_ID, ours.id())
        .set(AMENDMENT.MESSAGE, message)
        .set(AMENDMENT.CHANGES, json.writeValueAsString(changes))
        .set(AMENDMENT.STATE, "OPEN")
        .set(AMENDMENT.CAME_AT, clock.instant())
        .execute();
    events.record(
        EventKind.CHANGED_BY_CHANNEL,
        ours.id(),
        null,
        channel.name(),
        "The channel changed the order after its release",
        OrderContent.words(changes));
    snags.open(
        Snags.About.of(
                SnagCause.CHANGED_BY_CHANNEL,
                ours.id(),
                ours.number() + " was changed in " + channel.name(),
                Texts.cut(OrderContent.words(changes), 400))
            .order(ours.id()),
        ours.id(),
        channel.name());
  }

  public List<Waiting> ofOrder(long orderId) {
    boolean mayBeTaken = !consignments.hasLeft(orderId);
    return db.select(AMENDMENT.ID, AMENDMENT.CAME_AT, AMENDMENT.CHANGES)
        .from(AMENDMENT)
        .where(AMENDMENT.ORDER_ID.eq(orderId))
        .and(AMENDMENT.STATE.eq("OPEN"))
        .fetch(r ->
            new Waiting(
                r.value1(),
                r.value2(),
                List.of(json.readValue(r.value3(), Change[].class)),
                mayBeTaken));
  }

  /** The channel's version holds: what was released is called back, and the order begins anew. */
  @Transactional
  public void takeTheirs(long orderId, String actor) {
    OrderHead order = orders.lock(orderId);
    var open = open(orderId);
    if (consignments.hasLeft(orderId)) {
      throw Problem.conflict(order.number() + " has left already; what was sent can’t be changed");
    }
    Channel channel = channels.byId(order.channelId());
    IncomingOrder theirs = connectors.of(channel).read(channel, open.value2());
    settle(orderId, "TAKEN", actor);
    apply(channel, order, theirs, List.of(json.readValue(open.value3(), Change[].class)), actor);
    snags.close(SnagCause.CHANGED_BY_CHANNEL, orderId, actor);
  }

  /**
   * What was taken in holds; the channel's version is remembered, so that it is asked only once.
   */
  @Transactional
  public void keepOurs(long orderId, String actor) {
    OrderHead order = orders.lock(orderId);
    Channel channel = channels.byId(order.channelId());
    IncomingOrder theirs = connectors.of(channel).read(channel, open(orderId).value2());
    orders.keepContent(orderId, theirs.content());
    settle(orderId, "REFUSED", actor);
    snags.close(SnagCause.CHANGED_BY_CHANNEL, orderId, actor);
  }

  private void apply(
      Channel channel, OrderHead ours, IncomingOrder theirs, List<Change> changes, String actor) {
    consignments.withdraw(ours.id(), actor, "the order was changed");
    orders.amend(ours.id(), recognition.of(channel, theirs), actor, OrderContent.words(changes));
    consignments.refresh(ours.id());
  }

  private Record3<Long, String, String> open(long orderId) {
    return db.select(AMENDMENT.ID, AMENDMENT.MESSAGE, AMENDMENT.CHANGES)
        .from(AMENDMENT)
        .where(AMENDMENT.ORDER_ID.eq(orderId))
        .and(AMENDMENT.STATE.eq("OPEN"))
        .fetchOptional()
        .orElseThrow(() -> Problem.conflict("the channel has changed nothing that waits"));
  }

  private void settle(long orderId, String state, String actor) {
    db.update(AMENDMENT)
        .set(AMENDMENT.STATE, state)
        .set(AMENDMENT.SETTLED_BY, actor)
        .where(AMENDMENT.ORDER_ID.eq(orderId))
        .and(AMENDMENT.STATE.eq("OPEN"))
        .execute();
  }
}
