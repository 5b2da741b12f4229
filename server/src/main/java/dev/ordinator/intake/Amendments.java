package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.AMENDMENT;
import static java.util.Objects.requireNonNullElse;
import static java.util.stream.Collectors.toSet;

import dev.ordinator.cancelling.ProposedReturns;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.Asked;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.channels.MessagePart;
import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.orders.Amendment;
import dev.ordinator.core.orders.Amendment.Ours;
import dev.ordinator.core.orders.Amendment.Parcel;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.core.orders.OrderContent.Change;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Orders.ChannelCancelled;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.returns.Refunds;
import dev.ordinator.writeback.ObjectionWriteBack;
import java.time.Clock;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * What channels change about orders that were taken in. Only what a channel changed is written, and
 * only parcels that it touches are taken back; where a node already works on one of these, or
 * people here changed the same, a person sees the difference and says whose version holds.
 */
@Service
public class Amendments {
  private final DSLContext db;
  private final Channels channels;
  private final Connectors connectors;
  private final Recognition recognition;
  private final Orders orders;
  private final Consignments consignments;
  private final ProposedReturns proposedReturns;
  private final Refunds refunds;
  private final ObjectionWriteBack objections;
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
      ProposedReturns proposedReturns,
      Refunds refunds,
      ObjectionWriteBack objections,
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
    this.proposedReturns = proposedReturns;
    this.refunds = refunds;
    this.objections = objections;
    this.snags = snags;
    this.events = events;
    this.json = json;
    this.clock = clock;
  }

  /**
   * A change that waits for a person.
   *
   * @param mayBeTaken false: all that it is about has left
   */
  public record Waiting(long id, Instant cameAt, List<Change> changes, boolean mayBeTaken) {}

  /**
   * Follows what the channel says now, or asks a person.
   *
   * @throws MessagePart.Unreadable if it is in another currency now
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void follow(Channel channel, OrderHead order, IncomingOrder theirs, String message) {
    OrderContent says = theirs.content();
    OrderContent said = requireNonNullElse(orders.content(order.id()), says);
    requireSameCurrency(order, theirs);
    ChannelCancelled cancelled = orders.channelCancelled(order.id());
    orders.setChannelCancelled(order.id(), null);
    overtaken(order, channel.name());
    Ours ours = ours(order);
    // what was cancelled because the channel said so is wanted again
    OrderContent before = cancelled == null ? said : said.withWanted(ours.wanted());
    Amendment judged = Amendment.of(before, says, ours);
    // what people here cancelled does not come back without them
    Amendment amendment = cancelled == ChannelCancelled.AFTER_US ? judged.allAsked() : judged;
    if (amendment.follow().isEmpty() && amendment.ask().isEmpty()) {
      orders.keepContent(order.id(), says);
      return;
    }
    apply(channel, order, theirs, said, amendment.follow(), amendment.recalled(), channel.name());
    if (!amendment.ask().isEmpty()) {
      ask(channel, order, message, amendment);
    }
  }

  private static void requireSameCurrency(OrderHead order, IncomingOrder theirs) {
    String now = theirs.header().discount().currency().getCurrencyCode();
    if (!now.equals(order.currency())) {
      throw new MessagePart.Unreadable(
          "currency",
          "the order was taken in as one in %s; a change to %s can’t be followed"
              .formatted(order.currency(), now));
    }
  }

  /**
   * What waited for a person is no longer what the channel says: nothing of it is asked any more.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  void overtaken(OrderHead order, String actor) {
    settle(order.id(), "REFUSED", actor);
    consignments.letGoOn(order.id());
    snags.leave(order.id(), List.of(SnagCause.CHANGED_BY_CHANNEL, SnagCause.CANCELLED_TOO_LATE));
  }

  /** What is sent in place of what a node gave back is stopped as that was. */
  @EventListener
  void planned(Consignments.Planned planned) {
    db.select(AMENDMENT.MESSAGE, AMENDMENT.CHANGES)
        .from(AMENDMENT)
        .where(AMENDMENT.ORDER_ID.eq(planned.orderId()))
        .and(AMENDMENT.STATE.eq("OPEN"))
        .forEach(r -> {
          OrderHead order = orders.head(planned.orderId());
          Channel channel = channels.byId(order.channelId());
          List<Change> asked = List.of(json.readValue(r.value2(), Change[].class));
          stop(
              order,
              Amendment.touchedBy(
                  asked.stream().filter(c -> c.part() != null).toList(),
                  connectors.of(channel).read(channel, r.value1()).content(),
                  ours(order)),
              OrderContent.words(asked));
        });
  }

  private void stop(OrderHead order, Set<Long> ids, String words) {
    consignments.stop(heads(order.id(), ids), "the channel changed the order: " + words);
  }

  private void ask(Channel channel, OrderHead order, String message, Amendment amendment) {
    String words = OrderContent.words(amendment.ask());
    db.insertInto(AMENDMENT)
        .set(AMENDMENT.ORDER_ID, order.id())
        .set(AMENDMENT.MESSAGE, message)
        .set(AMENDMENT.CHANGES, json.writeValueAsString(amendment.ask()))
        .set(AMENDMENT.STATE, "OPEN")
        .set(AMENDMENT.CAME_AT, clock.instant())
        .execute();
    stop(order, amendment.stopped(), words);
    events.record(
        EventKind.CHANGED_BY_CHANNEL,
        order.id(),
        null,
        channel.name(),
        "The channel changed the order after its release",
        words);
    snags.open(
        Snags.About.of(
                SnagCause.CHANGED_BY_CHANNEL,
                order.id(),
                order.number() + " was changed in " + channel.name(),
                Texts.cut(words, 400))
            .order(order.id()),
        order.id(),
        channel.name());
  }

  /** How an order stands here. */
  private Ours ours(OrderHead order) {
    Map<Long, OrderLine> lines = new LinkedHashMap<>();
    orders.lines(order.id()).forEach(line -> lines.put(line.id(), line));
    Map<Long, Long> underWay = consignments.underWay(order.id());
    Map<String, Long> wanted = new LinkedHashMap<>();
    Map<String, Long> waiting = new LinkedHashMap<>();
    lines.forEach((id, line) -> {
      long open = line.quantity() - underWay.getOrDefault(id, 0L);
      wanted.merge(line.externalId(), line.quantity() / line.unitsEach(), Long::sum);
      waiting.merge(line.externalId(), Math.max(0, open) / line.unitsEach(), Long::sum);
    });
    List<Parcel> parcels =
        consignments.notLeft(order.id()).stream()
            .map(c ->
                new Parcel(
                    c.id(),
                    c.state() != ConsignmentState.PLANNED,
                    consignments.lines(c.id()).stream()
                        .map(Consignments.Line::orderLineExternalId)
                        .collect(toSet())))
            .toList();
    return new Ours(order.shipTo(), wanted, waiting, proposedReturns.left(order.id()), parcels);
  }

  private List<Consignments.Head> heads(long orderId, Set<Long> ids) {
    return consignments.notLeft(orderId).stream().filter(c -> ids.contains(c.id())).toList();
  }

  public List<Waiting> ofOrder(long orderId) {
    var open =
        db.select(AMENDMENT.ID, AMENDMENT.CAME_AT, AMENDMENT.CHANGES)
            .from(AMENDMENT)
            .where(AMENDMENT.ORDER_ID.eq(orderId))
            .and(AMENDMENT.STATE.eq("OPEN"))
            .fetch();
    if (open.isEmpty()) {
      return List.of();
    }
    Ours ours = ours(orders.head(orderId));
    return open.map(r -> {
      List<Change> changes = List.of(json.readValue(r.value3(), Change[].class));
      return new Waiting(r.value1(), r.value2(), changes, !possible(changes, ours).isEmpty());
    });
  }

  /** What of some changes is not about what has left. */
  private static List<Change> possible(List<Change> changes, Ours ours) {
    return changes.stream().filter(c -> c.part() == null || !Amendment.isTooLate(c, ours)).toList();
  }

  /**
   * The channel's version holds: parcels that it touches are called back, and what it changed is
   * written.
   */
  @Transactional
  public void takeTheirs(long orderId, String actor) {
    OrderHead order = orders.lock(orderId);
    String message = open(orderId).orElseThrow(Amendments::nothingWaits);
    Channel channel = channels.byId(order.channelId());
    IncomingOrder theirs = connectors.of(channel).read(channel, message);
    OrderContent said = requireNonNullElse(orders.content(orderId), theirs.content());
    Ours ours = ours(order);
    OrderContent before = order.stage() == Stage.CANCELLED ? said.withWanted(ours.wanted()) : said;
    List<Change> changes = possible(before.changesTo(theirs.content()), ours);
    if (changes.isEmpty()) {
      throw Problem.conflict(order.number() + " has left already; what was sent can’t be changed");
    }
    settle(orderId, "TAKEN", actor);
    consignments.letGoOn(orderId);
    Set<Long> touched = Amendment.touchedBy(changes, theirs.content(), ours);
    apply(channel, order, theirs, theirs.content(), changes, touched, actor);
    snags.close(SnagCause.CHANGED_BY_CHANNEL, orderId, actor);
  }

  /**
   * What was taken in holds; the channel's version is remembered, so that it is asked only once.
   */
  @Transactional
  public void keepOurs(long orderId, String actor) {
    OrderHead order = orders.lock(orderId);
    Channel channel = channels.byId(order.channelId());
    String message = open(orderId).orElseThrow(Amendments::nothingWaits);
    IncomingOrder theirs = connectors.of(channel).read(channel, message);
    OrderContent said = requireNonNullElse(orders.content(orderId), theirs.content());
    events.record(
        EventKind.NOTE,
        orderId,
        null,
        actor,
        "Kept as it was taken in, not as the channel changed it",
        OrderContent.words(said.changesTo(theirs.content())));
    orders.keepContent(orderId, theirs.content());
    settle(orderId, "REFUSED", actor);
    objections.note(order, Asked.CHANGE, "the order stays as it was taken in");
    consignments.letGoOn(orderId);
    snags.close(SnagCause.CHANGED_BY_CHANNEL, orderId, actor);
  }

  private void apply(
      Channel channel,
      OrderHead order,
      IncomingOrder theirs,
      OrderContent said,
      List<Change> changes,
      Set<Long> recalled,
      String actor) {
    Map<String, Long> left = proposedReturns.left(order.id());
    Map<String, Long> unwanted = Amendment.sentUnwanted(changes, theirs.content(), left);
    // what has left stays sold at its price until it comes back
    List<Change> written =
        changes.stream().filter(c -> unwanted.isEmpty() || !isOfMoney(c)).toList();
    consignments.withdraw(heads(order.id(), recalled), actor, "the order was changed");
    if (!written.isEmpty()) {
      refunds.keepCaptured(order);
      orders.amend(order.id(), recognition.of(channel, theirs), written, left, actor);
      refunds.raiseCaptured(order, theirs.header().payment().state());
    }
    orders.keepContent(order.id(), said.with(changes, theirs.content()));
    proposedReturns.propose(order, unwanted, actor);
    consignments.refresh(order.id());
  }

  private static boolean isOfMoney(Change change) {
    return change.part() != null && change.part().isOfMoney();
  }

  private Optional<String> open(long orderId) {
    return db.select(AMENDMENT.MESSAGE)
        .from(AMENDMENT)
        .where(AMENDMENT.ORDER_ID.eq(orderId))
        .and(AMENDMENT.STATE.eq("OPEN"))
        .fetchOptional(AMENDMENT.MESSAGE);
  }

  private static Problem nothingWaits() {
    return Problem.conflict("the channel has changed nothing that waits");
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
