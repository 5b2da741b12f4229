package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.concat;
import static org.jooq.impl.DSL.left;
import static org.jooq.impl.DSL.val;
import static org.jooq.impl.DSL.when;

import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.core.orders.OrderContent.Change;
import dev.ordinator.core.orders.OrderContent.Part;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.platform.EntityTag;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Orders and what may be done to them. Each change wakes the desk, which goes on as far as it can.
 */
@Service
public class Orders {
  /** The channel took back what it had said of the payment. */
  private static final String PAYMENT_LOST = "the channel says that it is no longer paid";

  private final DSLContext db;
  private final OrderStore store;
  private final OrderLineStore lines;
  private final ReadyOrderStore ready;
  private final Events events;
  private final ApplicationEventPublisher listeners;
  private final Clock clock;

  Orders(
      DSLContext db,
      OrderStore store,
      OrderLineStore lines,
      ReadyOrderStore ready,
      Events events,
      ApplicationEventPublisher listeners,
      Clock clock) {
    this.db = db;
    this.store = store;
    this.lines = lines;
    this.ready = ready;
    this.events = events;
    this.listeners = listeners;
    this.clock = clock;
  }

  /** Something that rules may look at happened, in the transaction that is under way. */
  public record Passed(long orderId, RuleEvent event) {}

  /** Nothing of an order is wanted any more; published in the transaction that made it so. */
  public record Cancelled(long orderId) {}

  /** An order may not go on for now; published in the transaction that says so. */
  public record Held(long orderId) {}

  /** An order that is locked for the desk's next step. */
  public record Claim(long orderId, Step step, int failures) {}

  /**
   * What an order's consignments say of it.
   *
   * @param shipBy the earliest ship-by date of what has not been handed over
   */
  public record Progress(Stage stage, boolean partShipped, @Nullable LocalDate shipBy) {}

  /** Tenders that its channel names now: more of them, or other amounts. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void followTenders(long id, List<NewOrder.Tender> tenders) {
    store.followTenders(id, tenders);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public long take(long channelId, NewOrder order, String actor, String how) {
    long id = store.insert(channelId, store.nextNumber(channelId), order);
    lines.insert(id, order.lines());
    store.followTenders(id, order.header().payment().tenders());
    events.record(EventKind.RECEIVED, id, null, actor, "Order received", how);
    return id;
  }

  /** Takes many orders at once that were looked at, in the order given. */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<Long> takeReady(long channelId, List<ReadyOrder> orders) {
    return ready.insert(channelId, orders);
  }

  public OrderHead head(long id) {
    return store.head(id).orElseThrow(() -> Problem.notFound("order " + id));
  }

  /** Those orders that there are. */
  public Map<Long, OrderHead> heads(Collection<Long> ids) {
    return store.heads(ids);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public OrderHead lock(long id) {
    return store.lock(id).orElseThrow(() -> Problem.notFound("order " + id));
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public Optional<OrderHead> lock(long channelId, String externalId) {
    return store.lock(channelId, externalId);
  }

  /** Which of a channel's orders there are already, by its ids. */
  public Set<String> known(long channelId, Collection<String> externalIds) {
    return db.select(SALES_ORDER.EXTERNAL_ID)
        .from(SALES_ORDER)
        .where(SALES_ORDER.CHANNEL_ID.eq(channelId))
        .and(SALES_ORDER.EXTERNAL_ID.in(externalIds))
        .fetchSet(SALES_ORDER.EXTERNAL_ID);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public Optional<Claim> claimNext() {
    return store.claim();
  }

  /** Lines by their orders. */
  public Map<Long, List<OrderLine>> lines(Collection<Long> ids) {
    return lines.ofOrders(ids);
  }

  public List<OrderLine> lines(long id) {
    return lines.ofOrder(id);
  }

  public void takeMatches(long id) {
    lines.takeMatches(id);
  }

  public Set<String> tags(long id) {
    return store.tags(id);
  }

  public void setTags(long id, Collection<String> tags) {
    store.setTags(id, tags);
  }

  /** Says what the desk does next; null: nothing. */
  public void setNext(long id, @Nullable Step step) {
    store.setNext(id, step);
  }

  /** Says what the desk does next, but not before a time. */
  public void setNextAt(long id, Step step, Instant at) {
    store.setNext(id, step, at);
  }

  /**
   * A step failed, and is tried again.
   *
   * @param failures of it in a row
   */
  public void setAgainAt(long id, Step step, Instant at, int failures) {
    store.setAgain(id, step, at, failures);
  }

  /** Since when the step that has waited longest is due; null if none is. */
  public @Nullable Instant oldestDue() {
    return store.oldestDue();
  }

  /** The order is left alone until its channel's next batch. */
  public void awaitBatch(long id) {
    store.setNext(id, Step.BATCH, null);
  }

  /** Whether it still waits for its channel's next batch. */
  public boolean awaitsBatch(long id) {
    return db.fetchExists(
        SALES_ORDER, SALES_ORDER.ID.eq(id).and(SALES_ORDER.NEXT_STEP.eq(Step.BATCH.name())));
  }

  /** Lets the desk go on from where the order stands. */
  @Transactional
  public void wake(Collection<Long> ids) {
    ids.forEach(id ->
        store
            .lock(id)
            .ifPresent(
                order -> store.setNext(id, Step.from(order.stage(), order.level() != null))));
  }

  public void setLevel(long id, ServiceLevel level) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.LEVEL, level.name())
        .where(SALES_ORDER.ID.eq(id))
        .execute();
  }

  public void setPriority(long id, int priority) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.PRIORITY, priority)
        .where(SALES_ORDER.ID.eq(id))
        .execute();
  }

  /**
   * Says whether it waits for stock. What is open of an order that does is in queues; whoever takes
   * something back that was on its way says that it doesn't, until it has been routed again.
   */
  public void setWaiting(long id, boolean waiting) {
    db.update(SALES_ORDER).set(SALES_ORDER.WAITING, waiting).where(SALES_ORDER.ID.eq(id)).execute();
  }

  public void setProgress(long id, Progress progress) {
    db.update(SALES_ORDER)
        .set(
            SALES_ORDER.STAGE_SINCE,
            when(SALES_ORDER.STAGE.eq(progress.stage().name()), SALES_ORDER.STAGE_SINCE)
                .otherwise(val(clock.instant(), SALES_ORDER.STAGE_SINCE)))
        .set(SALES_ORDER.STAGE, progress.stage().name())
        .set(SALES_ORDER.PART_SHIPPED, progress.partShipped())
        .set(SALES_ORDER.SHIP_BY, progress.shipBy())
        .set(SALES_ORDER.VERSION, SALES_ORDER.VERSION.plus(1))
        .where(SALES_ORDER.ID.eq(id))
        .execute();
  }

  /** Lets an order be routed. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void markApproved(OrderHead order, String actor, String why) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.APPROVED_AT, clock.instant())
        .set(SALES_ORDER.STAGE, Stage.APPROVED.name())
        .set(SALES_ORDER.STAGE_SINCE, clock.instant())
        .where(SALES_ORDER.ID.eq(order.id()))
        .execute();
    events.record(EventKind.APPROVED, order.id(), null, actor, "Approved", why);
    listeners.publishEvent(new Passed(order.id(), RuleEvent.APPROVED));
  }

  /** A person approves, whatever the payment. */
  @Transactional
  public void approve(long id, String actor) {
    OrderHead order = lock(id);
    if (order.stage() != Stage.RECEIVED) {
      throw Problem.conflict(order.number() + " is approved already");
    }
    if (order.level() == null) {
      throw Problem.conflict(order.number() + " is stuck; clear its snag first");
    }
    markApproved(
        order, actor, "by hand, payment " + order.payment().name().toLowerCase(Locale.ROOT));
    store.setNext(id, Step.ROUTE);
  }

  @Transactional
  public void hold(long id, String reason, String actor) {
    if (reason.isBlank() || reason.length() > 200) {
      throw Problem.invalid("reason", "say why, in at most 200 characters");
    }
    OrderHead order = lock(id);
    requireOurs(order);
    if (!mayBeHeld(order)) {
      throw Problem.conflict(order.number() + " has left already");
    }
    hold(order, reason, actor, false);
  }

  /** A rule holds an order, unless it is too late. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void holdByRule(long id, String reason, String actor) {
    OrderHead order = lock(id);
    if (mayBeHeld(order)) {
      hold(order, reason, actor, true);
    } else {
      events.record(
          EventKind.NOTE,
          id,
          actor,
          "Not held, it has left already or its depot packs it: " + reason);
    }
  }

  /** The holds that rules placed end; those of persons stay. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void endHoldsOfRules(long id, String actor) {
    lock(id);
    if (store.endHoldsOfRules(id, actor) > 0) {
      store.refreshMarks(List.of(id));
      events.record(EventKind.HOLD_RELEASED, id, actor, "Hold released");
      wake(List.of(id));
    }
  }

  /**
   * @throws Problem if its channel's depot packs it, whatever is said here
   */
  public static void requireOurs(OrderHead order) {
    if (order.fulfilledByChannel()) {
      throw Problem.conflict(
          order.number() + " is packed by its channel’s depot: only the channel can stop it");
    }
  }

  private static boolean mayBeHeld(OrderHead order) {
    return !order.fulfilledByChannel() && order.stage().compareTo(Stage.SHIPPED) < 0;
  }

  private void hold(OrderHead order, String reason, String actor, boolean byRule) {
    store.addHold(order.id(), reason, actor, byRule);
    store.refreshMarks(List.of(order.id()));
    store.setNext(order.id(), null);
    events.record(EventKind.HELD, order.id(), null, actor, "Held", reason);
    listeners.publishEvent(new Held(order.id()));
  }

  @Transactional
  public void releaseHold(long id, String actor) {
    lock(id);
    if (store.endHolds(id, actor) == 0) {
      throw Problem.conflict("the order is not held");
    }
    store.refreshMarks(List.of(id));
    events.record(EventKind.HOLD_RELEASED, id, actor, "Hold released");
    wake(List.of(id));
  }

  @Transactional
  public void note(long id, String text, String actor) {
    if (text.isBlank() || text.length() > 1000) {
      throw Problem.invalid("text", "a note has 1 to 1000 characters");
    }
    lock(id);
    events.record(EventKind.NOTE, id, actor, text.strip());
  }

  /**
   * Corrects where an order goes, until it is routed.
   *
   * @param seen the tag of the address that was to be corrected; null: not said
   * @throws Problem 412 if it is another one meanwhile
   */
  @Transactional
  public void correctAddress(long id, Address to, @Nullable String seen, String actor) {
    List<Address.Problem> problems = to.problems();
    if (!problems.isEmpty()) {
      throw Problem.invalid(problems.getFirst().part(), problems.getFirst().message());
    }
    OrderHead order = lock(id);
    requireOurs(order);
    EntityTag.require(seen, order.shipTo());
    if (order.stage().compareTo(Stage.ROUTED) >= 0) {
      throw Problem.conflict(order.number() + " has been routed to that address already");
    }
    db.update(SALES_ORDER)
        .set(SALES_ORDER.SHIP_NAME, to.name())
        .set(SALES_ORDER.SHIP_STREET, to.street())
        .set(SALES_ORDER.SHIP_POSTCODE, to.postcode())
        .set(SALES_ORDER.SHIP_CITY, to.city())
        .set(SALES_ORDER.SHIP_COUNTRY, to.country())
        .where(SALES_ORDER.ID.eq(id))
        .execute();
    events.record(EventKind.CORRECTED, id, actor, "Address corrected");
  }

  /** The channel says that the payment's state changed. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void setPayment(OrderHead order, PaymentState payment, String actor) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.PAYMENT_STATE, payment.name())
        .where(SALES_ORDER.ID.eq(order.id()))
        .execute();
    events.record(
        EventKind.CHANGED_BY_CHANNEL,
        order.id(),
        actor,
        "Payment: " + order.payment() + " → " + payment);
    if (order.payment().hasBeenPaid()
        && payment == PaymentState.UNPAID
        && order.approvedAt() != null
        && mayBeHeld(order)) {
      hold(order, PAYMENT_LOST, actor, false);
    }
    if (payment == PaymentState.PAID) {
      if (store.endHolds(order.id(), PAYMENT_LOST, actor) > 0) {
        store.refreshMarks(List.of(order.id()));
        events.record(EventKind.HOLD_RELEASED, order.id(), actor, "Hold released");
        wake(List.of(order.id()));
      }
      listeners.publishEvent(new Passed(order.id(), RuleEvent.PAID));
    }
    if (order.stage() == Stage.RECEIVED) {
      wake(List.of(order.id()));
    }
  }

  /** Some or all of what was paid was paid back. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void setRefunded(long id, PaymentState payment) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.PAYMENT_STATE, payment.name())
        .set(SALES_ORDER.VERSION, SALES_ORDER.VERSION.plus(1))
        .where(SALES_ORDER.ID.eq(id))
        .execute();
  }

  /**
   * Remembers the channel's latest revision and state, so that older ones that arrive later change
   * nothing.
   */
  public void setRevision(long id, long revision, String state) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.EXTERNAL_REV, revision)
        .set(SALES_ORDER.EXTERNAL_STATE, state)
        .where(SALES_ORDER.ID.eq(id))
        .execute();
  }

  /** What of an order the channel may change, as it last said; null for the oldest orders. */
  public @Nullable OrderContent content(long id) {
    return store.content(id);
  }

  /** Remembers what the channel says now, though it is not followed. */
  public void keepContent(long id, OrderContent content) {
    store.keepContent(id, content);
  }

  /**
   * Makes parts of an order what its channel says now; all else stays as it is. What is changed of
   * its goods or parcels may not be planned; the desk checks the order again then.
   *
   * @param kept units of lines, by the channel's ids and as it counts them, that stay wanted
   *     whatever it says: they have left
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void amend(
      long id, NewOrder theirs, List<Change> changes, Map<String, Long> kept, String actor) {
    Set<Part> parts = EnumSet.noneOf(Part.class);
    Map<String, Set<Part>> ofLines = new LinkedHashMap<>();
    changes.forEach(change -> {
      Part part = Objects.requireNonNull(change.part());
      parts.add(part);
      if (change.line() != null && !change.line().isEmpty()) {
        ofLines.computeIfAbsent(change.line(), l -> EnumSet.noneOf(Part.class)).add(part);
      }
    });
    store.amend(id, theirs, parts);
    lines.amend(id, theirs.lines(), ofLines, kept);
    if (parts.stream().anyMatch(p -> p.isOfGoods() || p.isOfParcels() || p.isOfMoney())) {
      store.setNext(id, Step.CHECK);
    }
    events.record(EventKind.AMENDED, id, null, actor, "Amended", OrderContent.words(changes));
  }

  /** When the channel said that an order is cancelled. */
  public enum ChannelCancelled {
    /** Before it was cancelled here. */
    FIRST,
    /** When it had been cancelled here. */
    AFTER_US
  }

  /** Whether the channel last said that the order is cancelled, and when; null: it did not. */
  public @Nullable ChannelCancelled channelCancelled(long id) {
    return db.select(SALES_ORDER.CHANNEL_CANCELLED)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.eq(id))
        .fetchOptional(SALES_ORDER.CHANNEL_CANCELLED)
        .map(ChannelCancelled::valueOf)
        .orElse(null);
  }

  /**
   * What the channel says of that now.
   *
   * @param when null: that it is not cancelled
   */
  public void setChannelCancelled(long id, @Nullable ChannelCancelled when) {
    db.update(SALES_ORDER)
        .set(SALES_ORDER.CHANNEL_CANCELLED, when == null ? null : when.name())
        .where(SALES_ORDER.ID.eq(id))
        .execute();
  }

  /** An order no longer bears its channel's id, so that the channel's order can come in again. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void setAside(long id, String mark) {
    db.update(SALES_ORDER)
        .set(
            SALES_ORDER.EXTERNAL_ID,
            concat(left(SALES_ORDER.EXTERNAL_ID, 70), val(" (" + mark + ")")))
        .where(SALES_ORDER.ID.eq(id))
        .execute();
  }

  /** Another item is sent instead of what a line ordered, and routed when its turn comes. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void replace(long lineId, long itemId) {
    lines.replace(lineId, itemId);
  }

  /**
   * Cancels units of lines.
   *
   * @param units as the channel counts them, by line
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void cancelUnits(long id, Map<Long, Long> units) {
    units.forEach(lines::cancel);
    setWaiting(id, false);
    listeners.publishEvent(new UnitsCancelled(id));
  }

  /** Some units of an order are no longer wanted. */
  public record UnitsCancelled(long orderId) {}

  /** Cancels what is open of every line. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void cancelLines(long id) {
    lines.ofOrder(id).forEach(line -> lines.cancel(line.id()));
    setWaiting(id, false);
    listeners.publishEvent(new Cancelled(id));
  }
}
