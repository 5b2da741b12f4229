package dev.ordinator.returns;

import static dev.ordinator.schema.Tables.RMA;
import static dev.ordinator.schema.Tables.RMA_ARRIVAL;
import static dev.ordinator.schema.Tables.RMA_LINE;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.summingLong;

import dev.ordinator.core.catalog.Whole;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Events.Happened;
import dev.ordinator.platform.Problem;
import dev.ordinator.returns.ReturnCard.Reason;
import dev.ordinator.returns.ReturnCard.Stage;
import dev.ordinator.returns.ReturnStore.Line;
import dev.ordinator.returns.ReturnStore.Sent;
import dev.ordinator.stock.CameBack;
import dev.ordinator.stock.CameBack.Disposition;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.ToLongFunction;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What buyers send back: opened for units that were shipped, inspected when they come, and closed
 * with what is paid back for them. Whoever changes a return has its order locked.
 */
@Service
public class Returns {
  private static final int LONGEST_NOTE = 400;
  private static final int LONGEST_WHY = 200;

  private final DSLContext db;
  private final ReturnStore store;
  private final Orders orders;
  private final Nodes nodes;
  private final CameBack cameBack;
  private final Events events;
  private final ApplicationEventPublisher listeners;
  private final Clock clock;

  Returns(
      DSLContext db,
      ReturnStore store,
      Orders orders,
      Nodes nodes,
      CameBack cameBack,
      Events events,
      ApplicationEventPublisher listeners,
      Clock clock) {
    this.db = db;
    this.store = store;
    this.orders = orders;
    this.nodes = nodes;
    this.cameBack = cameBack;
    this.events = events;
    this.listeners = listeners;
    this.clock = clock;
  }

  /**
   * @param node the code of the node to which it goes; null: where the first of it came from, or
   *     where that node has it sent
   * @param units of items, by the consignment's line with which they were sent
   */
  public record Wish(Reason reason, String note, @Nullable String node, Map<Long, Long> units) {}

  /**
   * Units that came, in one condition.
   *
   * @param lot of which lot they are, or which number; empty if neither is tracked
   * @param note what is known of a lot or number that was not sent with the order; null: nothing
   */
  public record Part(
      long lineId, long units, Disposition disposition, String lot, @Nullable String note) {
    String remark() {
      return note == null ? "" : note.strip();
    }
  }

  /**
   * @throws Problem if more is to come back than was sent and has not come back, or nothing
   */
  @Transactional
  public long open(long orderId, Wish wish, String actor) {
    if (wish.note().length() > LONGEST_NOTE) {
      throw Problem.invalid("note", "at most %d characters".formatted(LONGEST_NOTE));
    }
    OrderHead order = orders.lock(orderId);
    List<Coming> coming = coming(store.sent(orderId), wish.units());
    long node =
        wish.node() == null
            ? store.comesBackTo(coming.getFirst().sent().nodeId())
            : nodes.byCode(wish.node()).id();
    int no = store.ofOrder(orderId).size() + 1;
    String number = "RMA-" + order.number() + "-" + no;
    long id =
        db.insertInto(RMA)
            .set(RMA.ORDER_ID, orderId)
            .set(RMA.NO, no)
            .set(RMA.NUMBER, number)
            .set(RMA.NODE_ID, node)
            .set(RMA.REASON, wish.reason().name())
            .set(RMA.NOTE, wish.note().strip())
            .set(RMA.STATE, Stage.AWAITED.name())
            .set(RMA.OPENED_BY, actor)
            .set(RMA.OPENED_AT, clock.instant())
            .returningResult(RMA.ID)
            .fetchSingle()
            .value1();
    coming.forEach(line ->
        db.insertInto(RMA_LINE)
            .set(RMA_LINE.RMA_ID, id)
            .set(RMA_LINE.CONSIGNMENT_LINE_ID, line.sent().id())
            .set(RMA_LINE.UNITS, line.units())
            .execute());
    long units = coming.stream().mapToLong(Coming::units).sum();
    events.record(
        EventKind.RETURN_OPENED,
        orderId,
        null,
        actor,
        "%s: %d to come back to %s".formatted(number, units, nodes.byId(node).name()),
        wish.note().strip());
    listeners.publishEvent(new Opened(orderId, actor));
    return id;
  }

  /** A return was opened. */
  public record Opened(long orderId, String actor) {}

  private record Coming(Sent sent, long units) {}

  private static List<Coming> coming(List<Sent> sent, Map<Long, Long> units) {
    List<Coming> coming = new ArrayList<>();
    units.forEach((line, some) -> {
      if (some != 0) {
        Sent its =
            sent.stream()
                .filter(s -> s.id() == line)
                .findFirst()
                .orElseThrow(() ->
                    Problem.invalid("units", "only what was sent to the buyer can come back"));
        check(its, some);
        coming.add(new Coming(its, some));
      }
    });
    if (coming.isEmpty()) {
      throw Problem.invalid("units", "say what comes back");
    }
    return coming;
  }

  private static void check(Sent sent, long units) {
    if (units < 1 || units > sent.left()) {
      throw Problem.invalid(
          "units", "%d of %s can come back, not %d".formatted(sent.left(), sent.sku(), units));
    }
  }

  /**
   * Units came, and somebody looked at them: they go where they now belong.
   *
   * @param restComes whether what is short is still to come
   * @throws Problem if it is not awaited, or more came than was to come; then nothing is changed
   */
  @Transactional
  public void arrive(long id, List<Part> parts, boolean restComes, String actor) {
    ReturnCard rma = lock(id, Stage.AWAITED, "is not awaited any more");
    if (parts.isEmpty()) {
      throw Problem.invalid("parts", "nothing came: call it off if nothing will");
    }
    List<Line> lines = store.lines(id);
    Map<Long, Long> came =
        parts.stream().collect(groupingBy(Part::lineId, summingLong(Part::units)));
    came.forEach((line, units) -> check(line(lines, line), units));
    // levels are locked in one order, as everywhere
    parts.stream()
        .sorted(Comparator.comparingLong(part -> line(lines, part.lineId()).sent().itemId()))
        .forEach(part -> put(rma, line(lines, part.lineId()), part, actor));
    boolean all =
        lines.stream().allMatch(l -> l.came() + came.getOrDefault(l.id(), 0L) == l.units());
    if (all || !restComes) {
      comesNoMore(lines, came);
      move(id, Stage.ARRIVED);
    }
    events.record(
        EventKind.RETURN_ARRIVED,
        rma.orderId(),
        null,
        actor,
        "%s: %d came back to %s"
            .formatted(rma.number(), came.values().stream().mapToLong(u -> u).sum(), rma.node()),
        all ? "" : restComes ? "the rest is still to come" : "the rest does not come");
  }

  private static Line line(List<Line> lines, long id) {
    return lines.stream()
        .filter(l -> l.id() == id)
        .findFirst()
        .orElseThrow(() -> Problem.invalid("parts", "it is not of this return"));
  }

  private static void check(Line line, long units) {
    long awaited = line.units() - line.came();
    if (units < 1 || units > awaited) {
      throw Problem.invalid(
          "parts", "%d of %s are awaited, not %d".formatted(awaited, line.sent().sku(), units));
    }
  }

  private void put(ReturnCard rma, Line line, Part part, String actor) {
    if (part.units() < 1) {
      throw Problem.invalid("parts", "units are 1 or more");
    }
    Sent sent = line.sent();
    requireOurs(rma, part);
    boolean foreign = wasNotSent(sent, part);
    if (foreign) {
      requireRemark(sent, part);
      events.record(
          EventKind.NOTE,
          rma.orderId(),
          actor,
          "%s: %s of %s came back, which was not sent with it: %s"
              .formatted(rma.number(), part.lot().strip(), sent.sku(), part.remark()));
    }
    Long lot =
        cameBack.put(
            new CameBack.Goods(sent.itemId(), rma.nodeId(), part.units(), part.lot(), foreign),
            part.disposition(),
            actor,
            foreign ? rma.number() + ": " + part.remark() : rma.number(),
            "lot of " + sent.sku());
    db.insertInto(RMA_ARRIVAL)
        .set(RMA_ARRIVAL.RMA_LINE_ID, line.id())
        .set(RMA_ARRIVAL.UNITS, part.units())
        .set(RMA_ARRIVAL.DISPOSITION, part.disposition().name())
        .set(RMA_ARRIVAL.LOT_ID, lot)
        .set(RMA_ARRIVAL.ACTOR, actor)
        .set(RMA_ARRIVAL.AT, clock.instant())
        .execute();
  }

  /** What a supplier takes back at its own node is not ours to sell again. */
  private void requireOurs(ReturnCard rma, Part part) {
    boolean stays =
        part.disposition() == Disposition.RESTOCK || part.disposition() == Disposition.QUARANTINE;
    if (stays && isSuppliers(rma)) {
      throw Problem.invalid(
          "parts",
          rma.node() + " is a supplier’s: what comes back there goes to the supplier, or is scrap");
    }
  }

  /** Whether a return goes to a node that is not ours. */
  boolean isSuppliers(ReturnCard rma) {
    return nodes.byId(rma.nodeId()).kind() == NodeKind.SUPPLIER;
  }

  /** Whether a lot or number is not of those that were sent, as far as these are known. */
  private boolean wasNotSent(Sent sent, Part part) {
    Set<String> lots =
        sent.tracked() && !part.lot().isBlank()
            ? cameBack.lotsSent(sent.consignmentId(), sent.itemId()).keySet()
            : Set.of();
    return !lots.isEmpty() && !lots.contains(part.lot().strip());
  }

  private static void requireRemark(Sent sent, Part part) {
    if (part.disposition() != Disposition.QUARANTINE || part.remark().isEmpty()) {
      throw Problem.invalid(
          "lot of " + sent.sku(),
          "%s was not sent with this order; it can go to quarantine, with a note of what is known"
              .formatted(part.lot().strip()));
    }
    if (part.remark().length() > LONGEST_WHY) {
      throw Problem.invalid("note", "at most %d characters".formatted(LONGEST_WHY));
    }
  }

  /** What did not come can come back another time. */
  private void comesNoMore(List<Line> lines, Map<Long, Long> came) {
    for (Line line : lines) {
      long all = line.came() + came.getOrDefault(line.id(), 0L);
      if (all == 0) {
        db.deleteFrom(RMA_LINE).where(RMA_LINE.ID.eq(line.id())).execute();
      } else {
        db.update(RMA_LINE).set(RMA_LINE.UNITS, all).where(RMA_LINE.ID.eq(line.id())).execute();
      }
    }
  }

  /**
   * The buyer keeps it.
   *
   * @throws Problem if some of it came already
   */
  @Transactional
  public void callOff(long id, String actor) {
    ReturnCard rma = lock(id, Stage.AWAITED, "is not awaited any more");
    if (rma.came() > 0) {
      throw Problem.conflict("some of it came already: say that the rest does not come");
    }
    end(rma, Stage.CALLED_OFF, "", actor);
  }

  /**
   * Nothing is paid back for it.
   *
   * @throws Problem if something is, or it did not come yet
   */
  @Transactional
  public void close(long id, String why, String actor) {
    if (why.isBlank() || why.length() > LONGEST_WHY) {
      throw Problem.invalid("why", "say why, in at most %d characters".formatted(LONGEST_WHY));
    }
    ReturnCard rma = lock(id, Stage.ARRIVED, "did not come yet, or is closed");
    if (rma.refund() != null) {
      throw Problem.conflict("it is being paid back");
    }
    end(rma, Stage.CLOSED, why.strip(), actor);
  }

  /**
   * What was called off is awaited again, and what was closed without a refund is owed again.
   *
   * @throws Problem if what was called off is to come with another return now
   */
  @Transactional
  public void reopen(long id, String actor) {
    orders.lock(card(id).orderId());
    ReturnCard rma = card(id);
    switch (rma.stage()) {
      case CALLED_OFF -> {
        store.lines(id).forEach(line -> check(line.sent(), line.units()));
        move(id, Stage.AWAITED);
      }
      case CLOSED -> {
        if (rma.refund() != null) {
          throw Problem.conflict("it was paid back");
        }
        move(id, Stage.ARRIVED);
      }
      case AWAITED, ARRIVED -> throw Problem.conflict(rma.number() + " is open");
    }
    // rules have looked at it when it was opened
    events.record(EventKind.NOTE, rma.orderId(), actor, rma.number() + " is open again");
  }

  /** With the buyer's money a return is at its end. */
  @EventListener
  void on(Happened happened) {
    if (happened.kind() == EventKind.REFUNDED) {
      store.ofOrder(happened.orderId()).stream()
          .filter(rma -> rma.stage() == Stage.ARRIVED)
          .filter(rma -> rma.refund() == RefundCard.State.SETTLED)
          .forEach(rma -> end(rma, Stage.CLOSED, "", "desk"));
    }
  }

  /**
   * What of an order came back whole with a return, by its lines, as the channel counts them: what
   * is most likely owed.
   */
  Map<Long, Long> whole(List<Line> lines, long orderId) {
    Map<Long, Long> came = new HashMap<>();
    lines.forEach(line -> came.merge(line.sent().id(), line.came(), Long::sum));
    Map<Long, Long> whole = new HashMap<>();
    store.sent(orderId).stream()
        .collect(groupingBy(Sent::orderLineId))
        .forEach((line, goods) -> {
          long ordered = goods.stream().mapToLong(Sent::ordered).sum();
          if (ordered > 0) {
            // components of a kit may have come from several nodes
            Map<Long, Long> one = byItem(goods, Sent::units);
            one.replaceAll((item, units) -> Math.max(1, units / ordered));
            Map<Long, Long> back = byItem(goods, sent -> came.getOrDefault(sent.id(), 0L));
            long units = Whole.units(back, one);
            if (units > 0) {
              whole.put(line, units);
            }
          }
        });
    return whole;
  }

  private static Map<Long, Long> byItem(List<Sent> goods, ToLongFunction<Sent> units) {
    return goods.stream().collect(groupingBy(Sent::itemId, HashMap::new, summingLong(units)));
  }

  /** How many came of which nobody has said what is owed. */
  public int owed() {
    return store.count(ReturnStore.Pile.OWED);
  }

  /**
   * @throws Problem if there is no such return
   */
  ReturnCard card(long id) {
    return store.byId(id).stream().findFirst().orElseThrow(() -> Problem.notFound("return " + id));
  }

  private ReturnCard lock(long id, Stage stage, String otherwise) {
    orders.lock(card(id).orderId());
    ReturnCard rma = card(id);
    if (rma.stage() != stage) {
      throw Problem.conflict(rma.number() + " " + otherwise);
    }
    return rma;
  }

  private void end(ReturnCard rma, Stage stage, String why, String actor) {
    db.update(RMA)
        .set(RMA.STATE, stage.name())
        .set(RMA.ENDED_AT, clock.instant())
        .set(RMA.ENDED_WHY, why)
        .where(RMA.ID.eq(rma.id()))
        .execute();
    events.record(
        EventKind.RETURN_ENDED,
        rma.orderId(),
        null,
        actor,
        rma.number() + (stage == Stage.CLOSED ? " is closed" : " is called off"),
        why);
  }

  private void move(long id, Stage to) {
    db.update(RMA)
        .set(RMA.STATE, to.name())
        .setNull(RMA.ENDED_AT)
        .set(RMA.ENDED_WHY, "")
        .where(RMA.ID.eq(id))
        .execute();
  }
}
