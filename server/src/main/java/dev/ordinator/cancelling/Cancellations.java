package dev.ordinator.cancelling;

import static java.util.Objects.requireNonNull;

import dev.ordinator.channels.Connector.Asked;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Refusals;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Orders.ChannelCancelled;
import dev.ordinator.orders.Pricing;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.writeback.CancellationWriteBack;
import dev.ordinator.writeback.ObjectionWriteBack;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Orders that are no longer wanted. As long as nobody has begun to pack, stock is freed at once;
 * while it is packed a person says whether it can be stopped; what has left will come back.
 */
@Service
public class Cancellations {
  private static final String DESK = "desk";

  private final Orders orders;
  private final Consignments consignments;
  private final ProposedReturns proposedReturns;
  private final CancellationWriteBack writeBack;
  private final ObjectionWriteBack objections;
  private final Pricing pricing;
  private final Snags snags;
  private final Events events;

  Cancellations(
      Orders orders,
      Consignments consignments,
      ProposedReturns proposedReturns,
      CancellationWriteBack writeBack,
      ObjectionWriteBack objections,
      Pricing pricing,
      Snags snags,
      Events events) {
    this.orders = orders;
    this.consignments = consignments;
    this.proposedReturns = proposedReturns;
    this.writeBack = writeBack;
    this.objections = objections;
    this.pricing = pricing;
    this.snags = snags;
    this.events = events;
  }

  /**
   * The channel says that its order is void. What nobody packs is cancelled at once; what is being
   * packed stops until a person decides; for what has left a return is proposed.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void byChannel(OrderHead order, String channel) {
    if (orders.channelCancelled(order.id()) == null) {
      boolean isHere = order.stage() == Stage.CANCELLED;
      orders.setChannelCancelled(
          order.id(), isHere ? ChannelCancelled.AFTER_US : ChannelCancelled.FIRST);
    }
    if (order.stage() == Stage.CANCELLED) {
      return;
    }
    Map<String, Long> left = proposedReturns.left(order.id());
    if (left.isEmpty() && !consignments.packingHasBegun(order.id())) {
      cancel(order, channel, "by the channel");
      return;
    }
    consignments.withdrawUnpacked(order.id(), channel, "the order was cancelled");
    cancelRest(order, channel, "by the channel");
    proposedReturns.propose(order, left, channel);
    List<Consignments.Head> packing = consignments.notLeft(order.id());
    if (!packing.isEmpty()) {
      consignments.stop(packing, "the order was cancelled in " + channel);
      snags.open(
          Snags.About.of(
                  SnagCause.CANCELLED_TOO_LATE,
                  order.id(),
                  order.number() + " was cancelled in " + channel,
                  "it is being packed: take it back from the node, or let it go")
              .order(order.id()),
          order.id(),
          channel);
    }
  }

  /** Cancels what of an order is with no node and no carrier. */
  private void cancelRest(OrderHead order, String actor, String why) {
    Map<Long, Long> underWay = consignments.underWay(order.id());
    Map<Long, Long> rest = new LinkedHashMap<>();
    for (OrderLine line : orders.lines(order.id())) {
      long open = line.quantity() - underWay.getOrDefault(line.id(), 0L);
      if (open > 0) {
        rest.put(line.id(), open / line.unitsEach());
      }
    }
    if (!rest.isEmpty()) {
      orders.cancelUnits(order.id(), rest);
      pricing.settle(order.id());
      events.record(
          EventKind.CANCELLED, order.id(), null, actor, "Cancelled what had not been sent", why);
    }
    consignments.refresh(order.id());
    orders.wake(List.of(order.id()));
  }

  /** A person cancels what has not left, and has the channel told. */
  @Transactional
  public void byPerson(long orderId, String reason, String actor) {
    if (reason.isBlank() || reason.length() > 200) {
      throw Problem.invalid("reason", "say why, in at most 200 characters");
    }
    OrderHead order = orders.lock(orderId);
    Orders.requireOurs(order);
    if (order.stage() == Stage.CANCELLED) {
      throw Problem.conflict(order.number() + " is cancelled already");
    }
    if (consignments.hasLeft(orderId)) {
      throw Problem.conflict(order.number() + " has left already");
    }
    Map<String, Long> units =
        orders.lines(orderId).stream()
            .filter(OrderLine::isOpen)
            .collect(
                Collectors.toMap(
                    OrderLine::externalId, l -> l.quantity() / l.unitsEach(), Long::sum));
    cancel(order, actor, reason.strip());
    writeBack.note(order, reason.strip(), units);
  }

  /**
   * A person cancels some units that nobody has begun to pack, and has the channel told.
   *
   * @param units as the channel counts them, by line
   */
  @Transactional
  public void unitsByPerson(long orderId, Map<Long, Long> units, String reason, String actor) {
    if (reason.isBlank() || reason.length() > 200) {
      throw Problem.invalid("reason", "say why, in at most 200 characters");
    }
    OrderHead order = orders.lock(orderId);
    Orders.requireOurs(order);
    Map<Long, OrderLine> lines =
        orders.lines(orderId).stream().collect(Collectors.toMap(OrderLine::id, l -> l));
    units.forEach((id, some) -> {
      OrderLine line = lines.get(id);
      if (line == null || some < 1 || some > line.quantity() / line.unitsEach()) {
        throw Problem.invalid("units." + id, "as many as are open of a line of this order");
      }
    });
    if (units.isEmpty()) {
      throw Problem.invalid("units", "say how many of which line");
    }
    if (!areFree(orderId, lines, units)) {
      consignments.withdrawUnpacked(orderId, actor, "some of it is cancelled");
      if (!areFree(orderId, lines, units)) {
        throw Problem.conflict(
            "they are being packed, or have left: stop them at their node first");
      }
    }
    part(order, units, reason.strip(), actor);
  }

  /** Whether so many units are with no node. */
  private boolean areFree(long orderId, Map<Long, OrderLine> lines, Map<Long, Long> units) {
    Map<Long, Long> underWay = consignments.underWay(orderId);
    return units.entrySet().stream()
        .allMatch(wanted -> {
          OrderLine line = requireNonNull(lines.get(wanted.getKey()));
          long free = line.quantity() - underWay.getOrDefault(line.id(), 0L);
          return wanted.getValue() * line.unitsEach() <= free;
        });
  }

  /**
   * Cancels units that are not under way, and has the channel told; what is left of the order goes
   * on.
   *
   * @param units as the channel counts them, by line
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void part(OrderHead order, Map<Long, Long> units, String reason, String actor) {
    List<OrderLine> lines = orders.lines(order.id());
    Map<String, Long> told =
        lines.stream()
            .filter(line -> units.containsKey(line.id()))
            .collect(
                Collectors.toMap(
                    OrderLine::externalId, l -> units.getOrDefault(l.id(), 0L), Long::sum));
    orders.cancelUnits(order.id(), units);
    events.record(
        EventKind.CANCELLED,
        order.id(),
        null,
        actor,
        "Cancelled: "
            + lines.stream()
                .filter(line -> units.containsKey(line.id()))
                .map(line -> units.get(line.id()) + " × " + line.title())
                .collect(Collectors.joining(", ")),
        reason);
    pricing.settle(order.id());
    consignments.refresh(order.id());
    if (orders.lines(order.id()).stream().noneMatch(OrderLine::isOpen)) {
      cancel(order, actor, reason);
    } else {
      orders.wake(List.of(order.id()));
    }
    writeBack.notePart(order, reason, told);
  }

  /** A person takes back what is being packed, and cancels. */
  @Transactional
  public void takeBack(long orderId, String actor) {
    OrderHead order = undecided(orderId);
    List<Consignments.Head> packing = consignments.notLeft(orderId);
    if (packing.isEmpty()) {
      throw Problem.conflict(order.number() + " has left already");
    }
    consignments.withdraw(packing, actor, "the order was cancelled");
    end(order, actor, "taken back from the node");
  }

  /** A node gives back what a person was asked about: then nobody sends it. */
  @EventListener
  void refused(Refusals.Refused refused) {
    long orderId = refused.orderId();
    if (snags.isOpen(SnagCause.CANCELLED_TOO_LATE, orderId)) {
      OrderHead order = orders.lock(orderId);
      String why = "by the channel, and given back by the node";
      if (consignments.notLeft(orderId).isEmpty()) {
        end(order, DESK, why);
      } else {
        cancelRest(order, DESK, why);
      }
    }
  }

  /** Nothing of a cancelled order is with a node any more. */
  private void end(OrderHead order, String actor, String why) {
    if (consignments.hasLeft(order.id())) {
      cancelRest(order, actor, why);
      snags.close(SnagCause.CANCELLED_TOO_LATE, order.id(), actor);
    } else {
      cancel(order, actor, why);
    }
  }

  /** One of which a person is asked what becomes of it. */
  private OrderHead undecided(long orderId) {
    OrderHead order = orders.lock(orderId);
    if (!snags.isOpen(SnagCause.CANCELLED_TOO_LATE, orderId)) {
      throw Problem.conflict("nobody is asked any more whether " + order.number() + " goes on");
    }
    return order;
  }

  /** A person lets an order go though its channel cancelled it. */
  @Transactional
  public void letGo(long orderId, String actor) {
    OrderHead order = undecided(orderId);
    events.record(
        EventKind.NOTE, orderId, null, actor, "Goes on though the channel cancelled it", "");
    objections.note(order, Asked.CANCELLATION, "the order is sent all the same");
    consignments.letGoOn(orderId);
    snags.close(SnagCause.CANCELLED_TOO_LATE, orderId, actor);
  }

  /** What brought an order in is taken back; nobody is told, for nobody was promised anything. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void undone(OrderHead order, String actor, String why) {
    cancel(order, actor, why);
  }

  private void cancel(OrderHead order, String actor, String why) {
    consignments.withdraw(order.id(), actor, "the order was cancelled");
    orders.cancelLines(order.id());
    pricing.settle(order.id());
    events.record(EventKind.CANCELLED, order.id(), null, actor, "Cancelled", why);
    consignments.refresh(order.id());
    orders.setNext(order.id(), null);
    snags.leave(order.id(), List.copyOf(EnumSet.allOf(SnagCause.class)));
  }
}
